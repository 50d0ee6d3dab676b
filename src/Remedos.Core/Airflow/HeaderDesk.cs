using System.Globalization;
using Remedos.Core.Machines;
using Remedos.Core.SteadyState;

namespace Remedos.Core.Airflow;

/// <summary>What hangs on a header.</summary>
/// <param name="Loads">Ids of fans; “cooler” and “pump”.</param>
/// <param name="CurrentA">All together; null while one of them is not known.</param>
/// <param name="MaxCurrentA">Null while it is not known.</param>
/// <param name="Splitter">Whether it needs one.</param>
public sealed record HeaderLoad(
    string Name,
    IReadOnlyList<string> Loads,
    double? CurrentA,
    double? MaxCurrentA,
    bool Splitter,
    bool Overloaded,
    IReadOnlyList<string> Sentences
);

/// <summary>Which fan goes where, what each header carries, and what shares one.</summary>
public static class HeaderDesk
{
    /// <summary>What hangs on a header beside the case's fans.</summary>
    public const string Cooler = "cooler",
        Pump = "pump",
        Supply = "supply",
        SupplyFan = "supply-fan";

    /// <summary>Every header of the plan in its order, and last the supply when something hangs on it.</summary>
    public static IReadOnlyList<HeaderLoad> Of(CoolerPart? cooler, AirPlan plan)
    {
        List<(string? Header, string Load, string Words, double? CurrentA)> plugs =
        [
            .. plan.Fans.Select(fan => (fan.Header, fan.Id, $"the {fan.Place} fan", fan.CurrentA)),
        ];
        if (cooler?.Fans is { Count: > 0 } fans)
        {
            plugs.Add(
                (
                    plan.Cooler?.FanHeader,
                    Cooler,
                    cooler.IsLiquid ? "the radiator’s fans" : "the cooler’s fan",
                    fans.Any(fan => fan.CurrentA is null) ? null : fans.Sum(fan => fan.CurrentA)
                )
            );
        }

        if (cooler?.IsLiquid == true)
        {
            plugs.Add((plan.Cooler?.PumpHeader, Pump, "the pump", cooler.PumpCurrentA));
        }

        plugs.AddRange(
            plan.Headers.Where(header => header.SupplyFanA is not null)
                .Select(header => ((string?)header.Name, SupplyFan, "the supply’s own fan", header.SupplyFanA))
        );

        List<HeaderLoad> loads = [];
        foreach (PlannedHeader header in plan.Headers)
        {
            (string? Header, string Load, string Words, double? CurrentA)[] on = [.. plugs.Where(plug => plug.Header == header.Name)];
            double? sum = on.Any(plug => plug.CurrentA is null) ? null : on.Sum(plug => plug.CurrentA!.Value);
            double least = on.Sum(plug => plug.CurrentA ?? 0);
            bool over = header.MaxCurrentA is { } most && least > most + 1e-9;
            int wires = on.Sum(plug => plug.Load == Cooler ? cooler!.Fans!.Count : 1);
            bool pump = on.Any(plug => plug.Load == Pump);
            string[] unknown = [.. on.Where(plug => plug.CurrentA is null).Select(plug => plug.Words).Distinct()];
            string[] shared = [.. on.Select(plug => plug.Words).Distinct()];
            loads.Add(
                new HeaderLoad(
                    header.Name,
                    [.. on.Select(plug => plug.Load)],
                    sum,
                    header.MaxCurrentA,
                    wires > 1,
                    over,
                    [
                        .. new[]
                        {
                            over
                                ? $"{header.Name} carries {Amperes(header.MaxCurrentA!.Value)} and is asked for {Amperes(least)}: move "
                                    + $"one, or take a hub with its own supply."
                                : null,
                            unknown.Length > 0
                                ? $"Read on the label what {string.Join(" and ", unknown)} "
                                    + (unknown.Length == 1 && !unknown[0].EndsWith("fans", StringComparison.Ordinal) ? "draws" : "draw")
                                    + "."
                                : null,
                            on.Length > 0 && header.MaxCurrentA is null
                                ? $"What {header.Name} can carry stands in "
                                    + (IsHub(header) ? "its" : "the board’s")
                                    + " handbook; 1 A is usual."
                                : null,
                            pump && header.Steering is not null
                                ? $"The pump is on {header.Name}, which is steered: set it to full, or it slows the pump."
                                : null,
                            pump && on.Length > 1 ? "Nothing else belongs on the pump’s header." : null,
                            header.SupplyFanA is not null && header.Steering is not null
                                ? $"The supply’s own fan is on {header.Name}: never let this curve stop it."
                                : null,
                            on.Length > 1 && !pump && shared.Length > 1
                                ? $"One curve moves {string.Join(" and ", shared)} together."
                                : null,
                        }.OfType<string>(),
                    ]
                )
            );
        }

        string[] free = [.. plugs.Where(plug => plug.Header is null).Select(plug => plug.Load)];
        return free.Length == 0
            ? loads
            :
            [
                .. loads,
                new HeaderLoad(
                    Supply,
                    free,
                    null,
                    null,
                    false,
                    false,
                    [
                        free.Contains(Pump)
                            ? "The pump runs full from the supply; nobody sees its speed there."
                            : "From the supply they run full always.",
                    ]
                ),
            ];
    }

    private static bool IsHub(PlannedHeader header) => header.Name.StartsWith(AirPlans.Hub, StringComparison.Ordinal);

    private static string Amperes(double amperes) => $"{amperes.ToString("0.##", CultureInfo.InvariantCulture)} A";
}

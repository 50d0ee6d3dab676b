using System.Globalization;
using Remedos.Core.Machines;
using Remedos.Core.Parts;
using Remedos.Core.SteadyState;
using static Remedos.Core.Matching.Fit;

namespace Remedos.Core.Matching;

/// <summary>What a cooler is plugged into, and whether the board's headers carry it beside the case's fans.</summary>
internal static class FitPlugs
{
    private const string OnlyTheSupplys = "The supply’s own fan is on the board’s only header; the pump has none.";

    /// <summary>Fans on steered headers, one after the other until each is full; the pump alone on one that gives all.</summary>
    public static void Check(Build build, CoolerPart cooler, string? place, List<FitReason> reasons, List<string> plugs)
    {
        IReadOnlyList<Fan> fans = cooler.Fans ?? [];
        bool pump = cooler.IsLiquid;
        if (fans.Count == 0 && !pump)
        {
            return;
        }

        if (build.Board?.Headers is not { } headers)
        {
            reasons.Add(Measure("which headers the board has, and what each can carry", PartKind.Board));
            return;
        }

        List<Header> free = [.. headers];
        // The same case fans hang on the same headers as in the plan of its air.
        IReadOnlyList<PlannedFan> hung =
            build.Case?.Fans?.Any(fan => fan.CurrentA > 0) == true
                ? AirPlans.Of(build, cooler, cooler.IsLiquid ? place ?? "top" : null).Fans
                : [];
        double Left(Header header) =>
            header.MaxCurrentA - (header.SupplyFanA ?? 0) - hung.Where(fan => fan.Header == header.Name).Sum(fan => fan.CurrentA ?? 0);
        if (pump)
        {
            if (cooler.PumpCurrentA is not { } draws)
            {
                reasons.Add(Measure("what its pump draws; it stands on the pump’s label"));
                return;
            }

            Header[] able =
            [
                // The supply's fan wants its own curve; a pump wants none.
                .. free.Where(header => header.SupplyFanA is null && Left(header) >= draws - 1e-9)
                    .OrderByDescending(header => header.SteeredBy == "full")
                    .ThenBy(header => header.SteeredBy == "cpu")
                    .ThenBy(header => header.MaxCurrentA),
            ];
            if (able.Length == 0)
            {
                reasons.Add(
                    free.Count == 0 ? new FitReason(FitCode.NoHeader, null, "The board has no header for the pump.")
                    : free.TrueForAll(header => header.SupplyFanA is not null) ? new FitReason(FitCode.NoHeader, null, OnlyTheSupplys)
                    : new FitReason(
                        FitCode.HeaderCurrent,
                        null,
                        $"The pump draws {Amperes(draws)}, and no header carries that; the strongest has "
                            + $"{Amperes(free.Max(header => header.MaxCurrentA))}."
                    )
                );
            }
            else
            {
                Header header = able[0];
                free.Remove(header);
                plugs.Add(
                    $"Pump on {header.Name}"
                        + $"{(header.SteeredBy == "full" ? ", which gives it all." : ": set that header to full, or it slows the pump.")}"
                );
            }
        }

        if (fans.Count == 0)
        {
            return;
        }

        Header[] steered =
        [
            .. free.Where(header => header.SteeredBy != "full")
                .OrderBy(header => header.SupplyFanA is not null)
                .ThenByDescending(header => header.SteeredBy == "cpu")
                .ThenByDescending(header => header.MaxCurrentA),
        ];
        Header[] usable = steered.Length > 0 ? steered : [.. free];
        if (usable.Length == 0)
        {
            reasons.Add(
                new FitReason(
                    FitCode.NoHeader,
                    null,
                    pump ? "Beside the pump no header is left for its fans." : "The board has no header for its fan."
                )
            );
            return;
        }

        double[] left = [.. usable.Select(Left)];
        List<int> on = [];
        foreach (Fan fan in fans)
        {
            if (fan.CurrentA is not { } draws)
            {
                reasons.Add(Measure($"what its {(fans.Count == 1 ? "fan draws" : "fans draw")}; it stands on the label"));
                return;
            }

            int at = Array.FindIndex(left, current => current >= draws - 1e-9);
            if (at < 0)
            {
                double sum = fans.Sum(one => one.CurrentA ?? 0),
                    carried = usable.Sum(header => header.MaxCurrentA),
                    spare = usable.Sum(Left);
                string where =
                    usable.Length == 1 ? $"{usable[0].Name} carries {Amperes(carried)}" : $"the free headers carry {Amperes(carried)}";
                string others = usable.Any(header => header.SupplyFanA > 0) ? "other fans" : "case fans",
                    taken = carried - spare > 1e-9 ? $", and {others} take {Amperes(carried - spare)} of it" : "";
                reasons.Add(
                    new FitReason(
                        FitCode.HeaderCurrent,
                        null,
                        $"Its {(fans.Count == 1 ? "fan draws" : "fans draw")} {Amperes(sum)} together; {where}{taken}."
                    )
                );
                return;
            }

            left[at] -= draws;
            on.Add(at);
        }

        plugs.AddRange(
            on.GroupBy(at => at)
                .Select(group =>
                    $"{(group.Count() == 1 ? "Fan" : $"{group.Count()} fans, by a splitter,")} on "
                    + $"{usable[group.Key].Name}{(usable[group.Key].SteeredBy == "full" ? ", which runs them full always" : "")}"
                    + $"{(usable[group.Key].SupplyFanA is null ? "" : ", beside the supply’s own fan: one curve moves both")}."
                )
        );
    }

    private static string Amperes(double amperes) => $"{amperes.ToString("0.##", CultureInfo.InvariantCulture)} A";
}

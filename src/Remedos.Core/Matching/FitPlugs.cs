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

    /// <summary>Less than anybody reads off a label, A.</summary>
    private const double NoneA = 1e-9;

    /// <summary>Fans on steered headers, one after the other until each is full; the pump alone on one that gives all.</summary>
    public static void Check(Build build, CoolerPart cooler, string? place, List<FitReason> reasons, List<string> plugs)
    {
        IReadOnlyList<Fan> fans = cooler.Fans ?? [];
        if (fans.Count == 0 && !cooler.IsLiquid)
        {
            return;
        }

        if (build.Board?.Headers is not { } headers)
        {
            reasons.Add(Measure("which headers the board has, and what each can carry", PartKind.Board));
            return;
        }

        Span<double> left = stackalloc double[headers.Count];
        Left(build, cooler, headers, place, left);
        int pump = -1;
        if (cooler.IsLiquid)
        {
            if (cooler.PumpCurrentA is not { } draws)
            {
                reasons.Add(Measure("what its pump draws; it stands on the pump’s label"));
                return;
            }

            pump = Pump(headers, left, draws, reasons, plugs);
        }

        if (fans.Count > 0)
        {
            Fans(headers, left, pump, cooler, reasons, plugs);
        }
    }

    /// <summary>What each header still carries beside the case's fans and the supply's, A.</summary>
    private static void Left(Build build, CoolerPart cooler, IReadOnlyList<Header> headers, string? place, Span<double> left)
    {
        // The same case fans hang on the same headers as in the plan of its air.
        IReadOnlyList<PlannedFan> hung =
            build.Case?.Fans?.Any(fan => fan.CurrentA > 0) == true
                ? AirPlans.Of(build, cooler, cooler.IsLiquid ? place ?? "top" : null).Fans
                : [];
        for (int i = 0; i < left.Length; i++)
        {
            Header header = headers[i];
            left[i] = header.MaxCurrentA - (header.SupplyFanA ?? 0);
            for (int fan = 0; fan < hung.Count; fan++)
            {
                left[i] -= hung[fan].Header == header.Name ? hung[fan].CurrentA ?? 0 : 0;
            }
        }
    }

    /// <summary>Which header the pump is plugged into; −1 for none.</summary>
    private static int Pump(
        IReadOnlyList<Header> headers,
        ReadOnlySpan<double> left,
        double draws,
        List<FitReason> reasons,
        List<string> plugs
    )
    {
        // One that gives all, then any before the processor's own, the weaker first.
        static (bool, bool, double) Order(Header header) => (header.SteeredBy != "full", header.SteeredBy == "cpu", header.MaxCurrentA);
        int best = -1;
        for (int i = 0; i < left.Length; i++)
        {
            // The supply's fan wants its own curve; a pump wants none.
            bool able = headers[i].SupplyFanA is null && left[i] >= draws - NoneA;
            best = able && (best < 0 || Order(headers[i]).CompareTo(Order(headers[best])) < 0) ? i : best;
        }

        if (best < 0)
        {
            reasons.Add(
                headers.Count == 0 ? new FitReason(FitCode.NoHeader, null, "The board has no header for the pump.")
                : headers.All(header => header.SupplyFanA is not null) ? new FitReason(FitCode.NoHeader, null, OnlyTheSupplys)
                : new FitReason(
                    FitCode.HeaderCurrent,
                    null,
                    $"The pump draws {Amperes(draws)}, and no header carries that; the strongest has "
                        + $"{Amperes(headers.Max(header => header.MaxCurrentA))}."
                )
            );
            return best;
        }

        string then = headers[best].SteeredBy == "full" ? ", which gives it all." : ": set that header to full, or it slows the pump.";
        plugs.Add($"Pump on {headers[best].Name}{then}");
        return best;
    }

    private static void Fans(
        IReadOnlyList<Header> headers,
        Span<double> left,
        int pump,
        CoolerPart cooler,
        List<FitReason> reasons,
        List<string> plugs
    )
    {
        // The processor's own, then the stronger; last what the supply's own fan is on.
        static (bool, bool, double) Order(Header header) => (header.SupplyFanA is not null, header.SteeredBy != "cpu", -header.MaxCurrentA);
        IReadOnlyList<Fan> fans = cooler.Fans!;
        bool steered = false;
        for (int i = 0; i < left.Length; i++)
        {
            steered |= i != pump && headers[i].SteeredBy != "full";
        }

        bool IsUsable(int i) => i != pump && (!steered || headers[i].SteeredBy != "full");
        (int usable, double carried, double spare, string name, bool supplys) = (0, 0, 0, "", false);
        for (int i = 0; i < left.Length; i++)
        {
            if (IsUsable(i))
            {
                (usable, carried, spare, name) = (usable + 1, carried + headers[i].MaxCurrentA, spare + left[i], headers[i].Name);
                supplys |= headers[i].SupplyFanA > 0;
            }
        }

        if (usable == 0)
        {
            string none = cooler.IsLiquid ? "Beside the pump no header is left for its fans." : "The board has no header for its fan.";
            reasons.Add(new FitReason(FitCode.NoHeader, null, none));
            return;
        }

        Span<int> on = stackalloc int[fans.Count];
        for (int fan = 0; fan < on.Length; fan++)
        {
            if (fans[fan].CurrentA is not { } draws)
            {
                reasons.Add(Measure($"what its {(fans.Count == 1 ? "fan draws" : "fans draw")}; it stands on the label"));
                return;
            }

            int at = -1;
            for (int i = 0; i < left.Length; i++)
            {
                bool able = IsUsable(i) && left[i] >= draws - NoneA;
                at = able && (at < 0 || Order(headers[i]).CompareTo(Order(headers[at])) < 0) ? i : at;
            }

            if (at < 0)
            {
                string where = usable == 1 ? $"{name} carries {Amperes(carried)}" : $"the free headers carry {Amperes(carried)}";
                string taken =
                    carried - spare > NoneA ? $", and {(supplys ? "other fans" : "case fans")} take {Amperes(carried - spare)} of it" : "";
                string all = $"{(fans.Count == 1 ? "fan draws" : "fans draw")} {Amperes(fans.Sum(one => one.CurrentA ?? 0))} together";
                reasons.Add(new FitReason(FitCode.HeaderCurrent, null, $"Its {all}; {where}{taken}."));
                return;
            }

            left[at] -= draws;
            on[fan] = at;
        }

        for (int fan = 0; fan < on.Length; fan++)
        {
            if (on.IndexOf(on[fan]) == fan)
            {
                plugs.Add(Plugged(headers[on[fan]], on.Count(on[fan])));
            }
        }
    }

    private static string Plugged(Header header, int fans) =>
        $"{(fans == 1 ? "Fan" : $"{fans} fans, by a splitter,")} on {header.Name}"
        + (header.SteeredBy == "full" ? ", which runs them full always" : "")
        + (header.SupplyFanA is null ? "." : ", beside the supply’s own fan: one curve moves both.");

    private static string Amperes(double amperes) => $"{amperes.ToString("0.##", CultureInfo.InvariantCulture)} A";
}

using System.Text.Json.Serialization;
using Remedos.Core.Machines;
using Remedos.Core.Matching;
using Remedos.Core.Runs;
using Remedos.Core.SteadyState;

namespace Remedos.Core.Learning;

/// <summary>A run of a machine that stood well, with the cooler that was on it.</summary>
/// <param name="Machine">Whose; runs of one machine count as one.</param>
public sealed record LeagueRun(Guid Machine, Build Build, CoolerPart Cooler, RunAnalysis Analysis);

/// <summary>What this bench knows of a cooler beyond its catalogue.</summary>
/// <param name="Machines">In how many it was measured.</param>
/// <param name="Factor">By which its catalogue's resistance is to be multiplied.</param>
/// <param name="HalfWidthShare">Half of the 95 % interval of that, as a share.</param>
public sealed record LeagueEntry(int Machines, double Factor, double HalfWidthShare)
{
    /// <summary>What moved it last, in words; null where nothing did, or nobody asked.</summary>
    [JsonIgnore]
    public string? Moved { get; init; }

    /// <summary>In words.</summary>
    public string Sentence =>
        $"Measured on this bench in {(Machines == 1 ? "one machine" : $"{Machines} machines")}: {Against}"
        + $"{(Moved is null ? "" : $" ({Moved})")}.";

    /// <summary>Its factor in words: “4 % worse than its catalogue”.</summary>
    public string Against =>
        Math.Abs(Factor - 1) < 0.015
            ? "as its catalogue says"
            : $"{100 * Math.Abs(Factor - 1):0} % {(Factor > 1 ? "worse" : "better")} than its catalogue";

    /// <summary>With what moved it, where that can be told from what it was before.</summary>
    /// <param name="before">What it was.</param>
    /// <param name="day">When it moved, in words.</param>
    /// <param name="by">The machine's tag; null where a part's values moved it.</param>
    public LeagueEntry After(LeagueEntry before, string day, string? by) =>
        before.Against == Against
            ? this
            : this with
            {
                Moved =
                    $"{before.Against.Replace(" than its catalogue", "", StringComparison.Ordinal)} until {day}, "
                    + (by ?? "another value of the part"),
            };
}

/// <summary>
/// Coolers by what they did in closed cases here. What the chip and the case take of a run's resistance is taken off; the rest is held
/// against the catalogue at the same fan speed. The logarithms of those ratios are pooled
/// with the catalogue as a prior (a normal mean with known spreads): one run moves it a little, ten nearly decide, and a cooler is
/// never known less for having been measured.
/// </summary>
public static class CoolerLeague
{
    /// <summary>Ratios outside this come from something else than the cooler: the run is left out.</summary>
    private const double LeastRatio = 0.5,
        MostRatio = 2;

    /// <summary>What was learnt of one cooler; null when no run could be used.</summary>
    public static LeagueEntry? Of(IEnumerable<LeagueRun> runs)
    {
        double[] machines =
        [
            .. runs.Select(run => (run.Machine, Log: LogRatio(run)))
                .Where(pair => pair.Log is not null)
                .GroupBy(pair => pair.Machine, pair => pair.Log!.Value)
                .Select(logs => logs.Average()),
        ];
        return machines.Length == 0 ? null : Pool(runs.First().Cooler, machines.Length, machines.Sum());
    }

    /// <summary>What many machines show of a cooler.</summary>
    /// <param name="cooler">As its catalogue has it.</param>
    /// <param name="machines">At least one.</param>
    /// <param name="sum">Of their <see cref="LogRatio"/>, a mean of each.</param>
    public static LeagueEntry Pool(CoolerPart cooler, int machines, double sum)
    {
        // Half-widths take the place of standard deviations: their ratios are the same.
        double prior = cooler.Performance is { Count: > 0 } ? Defaults.CatalogueShare : Defaults.ClaimShare,
            machine = 1 / (Defaults.OneMachineShare * Defaults.OneMachineShare),
            precision = (1 / (prior * prior)) + (machines * machine);
        return new LeagueEntry(machines, Math.Exp(sum * machine / precision), 1 / Math.Sqrt(precision));
    }

    /// <summary>The cooler with what was learnt of it.</summary>
    public static CoolerPart Apply(CoolerPart cooler, LeagueEntry? entry)
    {
        if (entry is null)
        {
            return cooler;
        }

        CoolerCurve curve = new(cooler);
        double full = cooler.Fans?.Select(fan => fan.MaxRpm).DefaultIfEmpty(0).Max() ?? 0;
        double[] speeds =
            cooler.Performance is { Count: > 0 } points ? [.. points.Select(point => point.Rpm)]
            : full == 0 ? [0]
            : [full / 2, full];
        return cooler with
        {
            Performance = [.. speeds.Select(rpm => new PerformancePoint(rpm, entry.Factor * curve.At(rpm)))],
            Measured = true,
            SpreadShare = entry.HalfWidthShare,
            Note = entry.Sentence,
        };
    }

    /// <summary>The logarithm of the cooler's measured resistance over its catalogue's; null where the run does not tell.</summary>
    public static double? LogRatio(LeagueRun run)
    {
        if (
            run.Analysis is not { Resistance: { } total, Load: { } load }
            || run.Build.Processor.InsideResistanceCPerW is not { } inside
            || (load.SustainedFanRpm is null && run.Cooler.Fans is { Count: > 0 })
        )
        {
            return null;
        }

        double watts = load.SustainedPowerW ?? run.Build.Processor.SustainedPowerW,
            rpm = load.SustainedFanRpm ?? 0,
            full = run.Cooler.FullRpm;
        HeatMachine machine = HeatMachines.Of(
            run.Build,
            run.Cooler,
            AirPlans.Of(run.Build, run.Cooler, Predictor.PlaceOf(run.Build, run.Cooler))
        );
        double room = run.Analysis.AmbientC ?? run.Build.RoomC,
            card = run.Analysis.Beside?.GraphicsPowerW ?? AirLoad.CardW(run.Build, AirLoad.Processor);
        SteadyLoad seen = new(
            watts,
            card,
            room,
            CoolerFanAt: full > 0 ? rpm / full : null,
            CaseFansAt: machine.CaseFansAt(run.Analysis.Beside?.CaseFanRpm)
        );
        SteadyResult sound = new SteadySolver(machine).Solve(seen);
        double own = total.ValueCPerW - inside - ((sound.InletC - room) / watts);
        double ratio = own / new CoolerCurve(run.Cooler).At(load.SustainedFanRpm ?? 0);
        return ratio is > LeastRatio and < MostRatio ? Math.Log(ratio) : null;
    }
}

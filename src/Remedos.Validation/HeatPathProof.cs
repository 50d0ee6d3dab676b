using Remedos.Core.Bays;
using Remedos.Core.Diagnosis;
using Remedos.Core.HeatPath;
using Remedos.Core.Runs;
using Remedos.Core.Signals;
using Remedos.Core.Simulation;

namespace Remedos.Validation;

/// <summary>How well one band was found over many machines.</summary>
/// <param name="BiasCPerW">Mean of found minus true, °C/W.</param>
/// <param name="MeanErrorCPerW">Mean of the absolute error.</param>
/// <param name="Error95CPerW">95 % of the absolute errors are below this.</param>
/// <param name="MeanHalfWidthCPerW">Mean of the half-widths told.</param>
/// <param name="Coverage">Share of the intervals that hold the truth, 0…1.</param>
/// <param name="Machines">How many carried a fit.</param>
public sealed record BandProof(
    HeatStep Band,
    double BiasCPerW,
    double MeanErrorCPerW,
    double Error95CPerW,
    double MeanHalfWidthCPerW,
    double Coverage,
    int Machines
);

/// <summary>
/// Puts machines with and without a fault on the simulated bench and through the same reading as anybody's log, and holds the bands
/// against the machine's own modes.
/// </summary>
public static class HeatPathProof
{
    /// <summary>Of those that have a fault.</summary>
    private const double Faulty = 0.7;

    /// <summary>Runs the proof on all processors; the same numbers give the same table.</summary>
    /// <param name="machines">How many; 400 take about a minute on two cores.</param>
    /// <param name="seed">Of the first machine.</param>
    /// <param name="pool">Which machines.</param>
    public static IReadOnlyList<BandProof> Run(int machines, int seed, MachinePool pool)
    {
        (double Found, double True, double Half)[]?[] all = new (double, double, double)[machines][];
        Parallel.For(0, machines, i => all[i] = One(seed + i, pool));
        (double Found, double True, double Half)[][] results = [.. all.OfType<(double, double, double)[]>()];
        return
        [
            .. HeatBand.All.Select(
                (band, k) =>
                {
                    double[] errors = [.. results.Select(r => r[k].Found - r[k].True)],
                        absolute = [.. errors.Select(Math.Abs)];
                    return new BandProof(
                        band,
                        Statistics.Mean(errors),
                        Statistics.Mean(absolute),
                        Statistics.Quantile(absolute, 0.95),
                        Statistics.Mean([.. results.Select(r => r[k].Half)]),
                        results.Count(r => Math.Abs(r[k].Found - r[k].True) <= r[k].Half) / (double)results.Length,
                        results.Length
                    );
                }
            ),
        ];
    }

    /// <summary>Found, true and half-width of each band of one machine; null where its run carries no fit, which is said.</summary>
    private static (double Found, double True, double Half)[]? One(int seed, MachinePool pool)
    {
        Random random = new(seed);
        DrawnMachine drawn = DrawnMachine.Draw(pool, random, Fault);
        double? percent = random.Next(2) == 0 ? DrawnMachine.Between(random, 50, 100) : null;
        MachineOnBench bench = new(
            drawn.True,
            drawn.Faults.Where(fault => fault.Key != DrawnMachine.TooSmall),
            drawn.True.RoomC,
            seed,
            drawn.Heat
        );
        BayLog readings = new();
        BenchSettings rest = new(0, FanPercent: percent);
        bench.Record(readings, drawn.True, rest, DrawnMachine.Between(random, 150, 400));
        bench.Record(readings, drawn.True, rest with { Load = 1 }, DrawnMachine.Between(random, 1000, 2200));
        IReadOnlyList<(double TauSeconds, double ResistanceCPerW)> modes = bench.Modes;
        bench.Record(readings, drawn.True, rest, DrawnMachine.Between(random, 200, 500));
        RunAnalysis run = RunAnalyzer.Analyze(
            readings.ToLog(),
            new RunConditions(
                FanPolicy: percent is null ? "auto" : "fixed",
                FanPercent: percent,
                AmbientC: bench.Truth.RoomC,
                TemperatureLimitC: drawn.True.Processor.TemperatureLimitC,
                RatedPowerW: drawn.True.Processor.SustainedPowerW,
                CoolerKind: drawn.True.Cooler.Kind
            )
        );
        double True(double from, double to) =>
            modes.Where(mode => mode.TauSeconds > from && mode.TauSeconds <= to).Sum(mode => mode.ResistanceCPerW);
        double[] truth =
        [
            True(0, HeatBand.ChipUpToSeconds),
            True(HeatBand.ChipUpToSeconds, HeatBand.CoolerUpToSeconds),
            True(HeatBand.CoolerUpToSeconds, double.PositiveInfinity),
        ];
        return run.HeatPath is { } path ? [.. path.Zip(truth, (band, value) => (band.ResistanceCPerW, value, band.HalfWidthCPerW))] : null;
    }

    private static Dictionary<string, double>? Fault(CaseMachine machine, Random random)
    {
        double[] priors = DiagnosisNetwork.Priors(machine);
        int[] possible = [.. Enumerable.Range(0, priors.Length).Where(cause => priors[cause] > 0)];
        return random.NextDouble() > Faulty
            ? []
            : new()
            {
                [DiagnosisTables.Causes[possible[random.Next(possible.Length)]].Id] = DrawnMachine.Between(
                    random,
                    LikelihoodTables.WeakestSeverity,
                    1
                ),
            };
    }
}

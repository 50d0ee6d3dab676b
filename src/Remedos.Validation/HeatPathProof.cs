using Remedos.Core.HeatPath;
using Remedos.Core.Logs;
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
public sealed record BandProof(
    string Band,
    double BiasCPerW,
    double MeanErrorCPerW,
    double Error95CPerW,
    double MeanHalfWidthCPerW,
    double Coverage
);

/// <summary>Puts random machines through the bench and the same reading as anybody's log, and holds the bands against the truth.</summary>
public static class HeatPathProof
{
    /// <summary>Runs the proof on all processors; the same numbers give the same table.</summary>
    /// <param name="machines">How many; 500 take about a minute on two cores.</param>
    /// <param name="seed">Of the first machine.</param>
    public static IReadOnlyList<BandProof> Run(int machines, int seed)
    {
        (double Found, double True, double Half)[][] results = new (double, double, double)[machines][];
        Parallel.For(0, machines, i => results[i] = One(seed + i));
        string[] bands = [HeatBand.Chip, HeatBand.Cooler, HeatBand.Bulk];
        return
        [
            .. bands.Select(
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
                        results.Count(r => Math.Abs(r[k].Found - r[k].True) <= r[k].Half) / (double)machines
                    );
                }
            ),
        ];
    }

    /// <summary>Found, true and half-width of each band of one random machine.</summary>
    public static (double Found, double True, double Half)[] One(int seed)
    {
        RandomBench bench = RandomBench.Draw(new Random(seed));
        IReadOnlyList<BenchSample> samples = BenchRun.Simulate(
            bench.Machine,
            bench.Protocol,
            bench.RoomC,
            bench.FixedFanShare,
            seed,
            bench.Sensor
        );
        using MemoryStream bytes = new(
            System.Text.Encoding.UTF8.GetBytes(LogText.Write(samples, DateTimeOffset.UnixEpoch, semicolons: false))
        );
        RunAnalysis run = RunAnalyzer.Analyze(
            LogReader.Read(bytes).Log!,
            new RunConditions(
                FanPolicy: bench.FixedFanShare is null ? "auto" : "fixed",
                TemperatureLimitC: bench.Machine.LimitC,
                CoolerKind: bench.CoolerKind
            )
        );
        IReadOnlyList<(double TauSeconds, double ResistanceCPerW)> modes = bench
            .Machine.Network(run.Load!.SustainedFanRpm!.Value / bench.Machine.FullFanRpm)
            .Modes;
        double True(double from, double to) =>
            modes.Where(mode => mode.TauSeconds > from && mode.TauSeconds <= to).Sum(mode => mode.ResistanceCPerW);
        double[] truth =
        [
            True(0, HeatBand.ChipUpToSeconds),
            True(HeatBand.ChipUpToSeconds, HeatBand.CoolerUpToSeconds),
            True(HeatBand.CoolerUpToSeconds, double.PositiveInfinity),
        ];
        return [.. run.HeatPath!.Zip(truth, (band, value) => (band.ResistanceCPerW, value, band.HalfWidthCPerW))];
    }
}

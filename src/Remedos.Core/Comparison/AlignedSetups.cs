using Remedos.Core.Runs;

namespace Remedos.Core.Comparison;

/// <summary>
/// Runs of several setups brought to one power, one room, one other heat and one fan speed: those of the first setup. What is left between
/// them is the cooling.
/// </summary>
internal sealed class AlignedSetups
{
    /// <summary>Standard uncertainty of the other heat where no run tells it, °C.</summary>
    private const double UnknownOtherHeatC = 2;

    /// <summary>A card that draws less adds nothing to speak of, W.</summary>
    private const double CardCountsW = 20;

    private readonly IReadOnlyList<Reading>[] _setups;
    private readonly double[] _otherHeatC;
    private readonly double[][] _otherHeatOf;

    /// <summary>Brings them together.</summary>
    /// <param name="setups">At least one run each; the first is the reference.</param>
    /// <param name="sameFan">Of each setup, whether its fan's speed means the same as the reference's: another kind of cooler carries other
    /// fans.</param>
    public AlignedSetups(IReadOnlyList<IReadOnlyList<Reading>> setups, IReadOnlyList<bool> sameFan)
    {
        _setups = [.. setups];
        IReadOnlyList<Reading> reference = setups[0];
        ReferencePowerW = reference.Average(run => run.PowerW);
        RoomC = reference.Average(run => run.RoomC);
        Reading[] all = [.. setups.SelectMany(runs => runs)];
        double[] told = [.. all.Select(run => run.OtherHeatC).OfType<double>()];
        double card = all.Average(run => run.CardPowerW);
        OtherHeatC = told.Length == 0 ? 0 : told.Average();
        OtherHeatIsKnown = told.Length > 0;
        // One other heat for all; where a card heats the case, its watts of that run.
        _otherHeatC = [.. all.Select(run => card > CardCountsW ? OtherHeatC * run.CardPowerW / card : OtherHeatC)];
        // All or none: a setup whose fan is not logged is taken as it ran, and said so.
        ReferenceRpm = reference.All(run => run.Fan is not null) ? reference.Average(run => run.Fan!.Rpm) : null;
        int index = 0;
        Values = [.. setups.Select((runs, k) => ValuesOf(runs, ReferenceRpm is not null && sameFan[k], ref index))];
        FanAligned = [.. setups.Select((runs, k) => ReferenceRpm is not null && sameFan[k] && runs.All(run => run.Fan is not null))];
        _otherHeatOf = [.. Offsets()];
    }

    /// <summary>Mean of the reference's sustained powers, W.</summary>
    public double ReferencePowerW { get; }

    /// <summary>The reference's room, °C.</summary>
    public double RoomC { get; }

    /// <summary>What others put into the subject's air, one value for all, °C.</summary>
    public double OtherHeatC { get; }

    public bool OtherHeatIsKnown { get; }

    /// <summary>The reference's fan speed, rpm; null where it is not logged.</summary>
    public double? ReferenceRpm { get; }

    /// <summary>Whether a setup's values are at the reference's fan speed.</summary>
    public bool[] FanAligned { get; }

    /// <summary>Own resistance of each run at the reference's fan speed, °C/W; setup by setup in the runs' order.</summary>
    public double[][] Values { get; }

    /// <summary>The mean of the mounts' means, °C/W.</summary>
    public double MeanOf(int setup) => Mounts(setup).Average(runs => runs.Average());

    /// <summary>By how much a setup's own fan speed makes it more than at the reference's, °C/W; null where that is not known.</summary>
    public double? FanPartOf(int setup) => FanAligned[setup] ? -_setups[setup].Average(run => run.Fan!.MoreAt(ReferenceRpm!.Value)) : null;

    /// <summary>
    /// By how much a setup's resistance at another speed is more than at the one its values are at, °C/W; null where its fan is
    /// not logged.
    /// </summary>
    public double? MoreAt(int setup, double rpm) =>
        _setups[setup].All(run => run.Fan is not null)
            ? _setups[setup].Average(run => run.Fan!.MoreAt(rpm))
                - (FanAligned[setup] ? _setups[setup].Average(run => run.Fan!.MoreAt(ReferenceRpm!.Value)) : 0)
            : null;

    /// <summary>A setup's mean fan speed, rpm.</summary>
    public double? RpmOf(int setup) => _setups[setup].All(run => run.Fan is not null) ? _setups[setup].Average(run => run.Fan!.Rpm) : null;

    /// <summary>Own resistances of a setup's runs at reference power, mount by mount, °C/W.</summary>
    public IReadOnlyList<double[]> Mounts(int setup) =>
        [
            .. _setups[setup]
                .Select((run, i) => (run.Mount, Value: Values[setup][i]))
                .GroupBy(pair => pair.Mount, pair => pair.Value)
                .Select(mount => mount.ToArray()),
        ];

    public Design DesignOf(int setup) =>
        new(
            [.. Mounts(setup).Select(runs => runs.Length)],
            Math.Sqrt(_setups[setup].Average(run => Square(run.RoomUncertaintyC * ReferencePowerW / run.PowerW)))
        );

    /// <summary>Bench scatter, with what these setups show of it.</summary>
    public Repeatability Learn(Repeatability bench)
    {
        Reading[] all = [.. _setups.SelectMany(runs => runs)];
        double At(Reading run, double c) => c * ReferencePowerW / run.PowerW;
        return Precision.Learn(
            bench,
            [
                .. Enumerable
                    .Range(0, _setups.Length)
                    .Select(k =>
                        (IReadOnlyList<double[]>)[.. Mounts(k).Select(runs => runs.Select(value => value * ReferencePowerW).ToArray())]
                    ),
            ],
            Math.Sqrt(all.Average(run => Square(At(run, run.UncertaintyC))))
        );
    }

    /// <summary>
    /// What no further run takes away between two setups: the other heat where their watts differ, and the fan's part, °C.
    /// </summary>
    public double SystematicC(int a, int b)
    {
        double wattsA = _setups[a].Average(run => run.PowerW),
            wattsB = _setups[b].Average(run => run.PowerW);
        double other = OtherHeatIsKnown ? RunFigures.OtherHeatC + (RunFigures.OtherHeatShare * Math.Abs(OtherHeatC)) : UnknownOtherHeatC;
        double watts = other * ReferencePowerW * Math.Abs((1 / wattsA) - (1 / wattsB));
        double fan = ReferenceRpm is { } rpm
            ? new[] { a, b }
                .Where(k => FanAligned[k])
                .Sum(k => Square(ReferencePowerW * _setups[k].Average(run => run.Fan!.UncertaintyAt(rpm))))
            : 0;
        return Math.Sqrt(Square(watts) + fan);
    }

    /// <summary>Mean other heat of a setup's runs, °C.</summary>
    public double OtherHeatOf(int setup) => _otherHeatOf[setup].Average();

    private IEnumerable<double[]> Offsets()
    {
        int index = 0;
        foreach (IReadOnlyList<Reading> runs in _setups)
        {
            yield return _otherHeatC[index..(index += runs.Count)];
        }
    }

    private double[] ValuesOf(IReadOnlyList<Reading> runs, bool atReferenceFan, ref int index)
    {
        bool fan = atReferenceFan && runs.All(run => run.Fan is not null);
        double[] values = new double[runs.Count];
        for (int i = 0; i < runs.Count; i++)
        {
            values[i] = ((runs[i].RiseC - _otherHeatC[index++]) / runs[i].PowerW) + (fan ? runs[i].Fan!.MoreAt(ReferenceRpm!.Value) : 0);
        }

        return values;
    }

    private static double Square(double x) => x * x;
}

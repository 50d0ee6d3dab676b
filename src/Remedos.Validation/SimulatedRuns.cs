using Remedos.Core.Comparison;
using Remedos.Core.Physics;
using Remedos.Core.Runs;

namespace Remedos.Validation;

/// <summary>What is true of a machine, without noise.</summary>
/// <param name="FixedCPerW">The part of the own resistance that no fan changes, °C/W.</param>
/// <param name="FanCPerW">The part that goes with the fan, at 1000 rpm, °C/W.</param>
/// <param name="OtherHeatC">What board and supply add to the chip, °C.</param>
/// <param name="PowerW">Sustained, W.</param>
public sealed record TrueMachine(double FixedCPerW, double FanCPerW, double OtherHeatC, double PowerW)
{
    public double OwnCPerW(double rpm) => FixedCPerW + (FanCPerW * Math.Pow(rpm / 1000, PhysicalConstants.FanExponent));
}

/// <summary>How a bench scatters, as standard deviations.</summary>
/// <param name="MountC">Between mounts and their days, °C at the machine's power.</param>
/// <param name="WithinC">Between runs on one mount, °C.</param>
/// <param name="RoomC">A reading of the room by hand, one a mount, °C.</param>
public sealed record TrueBench(double MountC, double WithinC, double RoomC);

/// <summary>Draws runs of a machine on a bench, as an analysis would have read them.</summary>
public sealed class SimulatedRuns(Random random, TrueBench bench)
{
    private const double LimitC = 100;

    private readonly Dictionary<TrueMachine, (double OtherC, double FanShare)> _misread = [];

    private int _mounts;

    /// <summary>Runs on some mounts; each mount has its seat, its day and its reading of the room.</summary>
    public IReadOnlyList<ConditionedRun> Of(TrueMachine machine, int mounts, int runsOfMount, double rpm, double roomC) =>
        [.. Enumerable.Range(0, mounts).SelectMany(_ => Mount(machine, runsOfMount, rpm, roomC))];

    /// <summary>Runs of one mount.</summary>
    public IReadOnlyList<ConditionedRun> Mount(TrueMachine machine, int runs, double rpm, double roomC)
    {
        string name = $"mount {++_mounts}";
        double seatC = bench.MountC * Normal(),
            dayC = roomC + Normal(),
            readC = dayC + (bench.RoomC * Normal());
        return
        [
            .. Enumerable
                .Range(0, runs)
                .Select(_ =>
                {
                    double watts = machine.PowerW * (1 + (0.01 * Normal())),
                        turns = rpm * (1 + (0.01 * Normal()));
                    double chip =
                        dayC
                        + machine.OtherHeatC
                        + (watts * machine.OwnCPerW(turns))
                        + (seatC * watts / machine.PowerW)
                        + (bench.WithinC * Normal());
                    return new ConditionedRun(
                        Analysis(machine, chip, readC, watts, turns),
                        new RunConditions("all-core", "closed", "auto", TemperatureLimitC: LimitC),
                        name
                    );
                }),
        ];
    }

    private RunAnalysis Analysis(TrueMachine machine, double chipC, double roomC, double watts, double rpm)
    {
        // What a fit tells of the other heat and of the fan's part is off by as much as it says it may be; of one machine always by the
        // same.
        if (!_misread.TryGetValue(machine, out (double OtherC, double FanShare) off))
        {
            off = _misread[machine] = ((0.5 + (0.3 * machine.OtherHeatC)) * Normal(), 0.25 * Normal());
        }

        double other = machine.OtherHeatC + off.OtherC;
        double fan = machine.FanCPerW * Math.Pow(rpm / 1000, PhysicalConstants.FanExponent),
            seen = fan * (1 + off.FanShare);
        double resistance = (chipC - roomC) / watts;
        ResistanceFigures all = new(resistance, 1.96 * bench.RoomC / watts);
        return new RunAnalysis(
            2000,
            1,
            2000,
            [],
            [new Phase(PhaseKind.Load, 300, 1800)],
            roomC,
            null,
            new LoadFigures(chipC + 1, chipC, 0.1, watts, 4500, rpm, true, 900, chipC, 1500, 1800),
            all,
            [],
            null,
            null,
            null,
            null,
            []
        )
        {
            AmbientUncertaintyC = bench.RoomC,
            OtherHeatRiseC = other,
            OwnResistance = new ResistanceFigures(resistance - (other / watts), all.HalfWidthCPerW),
            FanResistance = new FanResistance(Math.Max(0, seen), 0.25 * fan, rpm),
        };
    }

    /// <summary>A standard normal number (Box &amp; Muller 1958).</summary>
    public double Normal() => Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
}

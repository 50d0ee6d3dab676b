using Remedos.Core.HeatPath;
using Remedos.Core.Machines;
using Remedos.Core.SteadyState;

namespace Remedos.Core.Runs;

/// <summary>One step of the staircase: a stretch of the heat path, from the room towards the chip.</summary>
/// <param name="Title">What lies there in this kind of machine.</param>
/// <param name="FromC">Temperature at its foot, °C.</param>
/// <param name="RiseC">Degrees lost there, °C.</param>
/// <param name="ResistanceCPerW">Its width: the rise over the sustained power, °C/W.</param>
/// <param name="HalfWidthC">Half of the rise's 95 % interval, °C; null where it was measured at both ends.</param>
/// <param name="ExpectedC">What a sound machine would lose there in this run, °C; null when nothing is expected.</param>
/// <param name="ExpectedHalfWidthC">Half of the 95 % interval of that, °C.</param>
/// <param name="Swollen">Whether this is the step that sticks out.</param>
public sealed record StaircaseStep(
    HeatStep Id,
    string Title,
    double FromC,
    double RiseC,
    double ResistanceCPerW,
    double? HalfWidthC,
    double? ExpectedC,
    double? ExpectedHalfWidthC,
    bool Swollen
)
{
    /// <summary>What two thermometers leave open, °C.</summary>
    internal const double MeasuredC = 1;
}

/// <summary>The heat path as a staircase from the room to the chip, at the sustained power.</summary>
/// <param name="RoomC">Its foot, °C.</param>
/// <param name="ChipC">Its top: the sustained temperature, °C.</param>
/// <param name="PowerW">The sustained power, W.</param>
/// <param name="Sentence">Where the heat sticks, how much of it, what is expected, and what to look at; or that no step sticks out.</param>
public sealed record HeatStaircase(double RoomC, double ChipC, double PowerW, IReadOnlyList<StaircaseStep> Steps, string Sentence)
{
    /// <summary>
    /// A step sticks out when it exceeds the expected one by these standard deviations, by this share, and by these degrees.
    /// </summary>
    public const double SticksOutZ = 2.3,
        SticksOutShare = 0.25,
        SticksOutC = 4;

    /// <summary>All steps together lose more than a sound machine from this ratio on, where that is beyond doubt.</summary>
    public const double RaisedRatio = 1.1;

    /// <summary>
    /// What a sound machine is expected to have shown, where it stands and from what it is known; null when nothing is expected.
    /// </summary>
    public ExpectedTop? Expected { get; init; }

    /// <summary>
    /// A run's stairs, held against what is expected of it; null where the log carries no heat path. Chip and cooler come from the fit; the
    /// rest of the measured rise, other heat included, lies behind them.
    /// </summary>
    /// <param name="expected">Null when nothing is.</param>
    public static HeatStaircase? Of(RunAnalysis run, RunConditions conditions, ExpectedRun? expected)
    {
        if (
            run is not { HeatPath: { } bands, AmbientC: { } roomC, Load: { SustainedPowerW: { } powerW, SustainedTemperatureC: var chipC } }
        )
        {
            return null;
        }

        HeatBand Band(HeatStep step) => bands.Single(band => band.Band == step);
        (HeatBand chip, HeatBand cooler, HeatBand bulk) = (Band(HeatStep.Chip), Band(HeatStep.Cooler), Band(HeatStep.Bulk));
        ExpectedState? sound = expected?.State;
        bool liquid = ExpectedRun.KindOf(run, conditions) == "liquid";
        double chipRise = chip.RiseC,
            coolerRise = cooler.RiseC,
            chipHalf = chip.HalfWidthCPerW * powerW;
        double? coolerHalf = cooler.HalfWidthCPerW * powerW;
        if (run.Beside?.CoolantC is { } coolant && coolant > roomC && coolant < chipC - chipRise)
        {
            // The coolant is measured: what lies between it and the chip's own band is block and flow, whatever the fit says.
            (coolerRise, coolerHalf) = (chipC - chipRise - coolant, chipHalf);
        }

        double behind = Math.Max(0, chipC - roomC - chipRise - coolerRise);
        // A radiator that draws from the room has no case air below it; where nobody said how it hangs, nothing is made of that air.
        bool hangs = sound?.BreathesCase == false || (liquid && expected?.Reference.ByParts == false);
        double? caseAirC = hangs ? null : run.Beside?.CaseAirC;
        double caseRise = caseAirC is { } air ? Math.Clamp(air - roomC, 0, behind) : 0;
        Expected? Times(Expected? resistance) => resistance is { } r ? new Expected(r.Value * powerW, r.HalfWidth * powerW) : null;
        Expected? chipSound = Times(sound?.ChipCPerW),
            coolerSound = Times(sound?.CoolerCPerW),
            bulkSound = null;
        if (sound is not null)
        {
            double rest = sound.RiseC.Value - chipSound!.Value.Value - coolerSound!.Value.Value,
                half = sound.BulkCPerW.HalfWidth * powerW;
            bulkSound = caseAirC is null
                ? new Expected(rest, Root(half, sound.BreathesCase ? sound.OtherHeatC.HalfWidth : 0))
                : new Expected(Math.Max(0, rest - sound.CaseAirC.Value), half);
        }

        string to = caseAirC is null ? "room" : "case air";
        List<(HeatStep Id, string Title, double Rise, double? Half, Expected? Sound)> parts = [];
        if (caseAirC is not null)
        {
            parts.Add((HeatStep.CaseAir, "case air to room", caseRise, null, sound?.CaseAirC));
        }

        parts.Add(
            (HeatStep.Bulk, liquid ? $"radiator to {to}" : $"fins to {to}", behind - caseRise, bulk.HalfWidthCPerW * powerW, bulkSound)
        );
        parts.Add((HeatStep.Cooler, liquid ? "block to liquid" : "base to fins", coolerRise, coolerHalf, coolerSound));
        parts.Add((HeatStep.Chip, liquid ? "chip to block" : "chip to base", chipRise, chipHalf, chipSound));
        List<StaircaseStep> steps = [];
        double at = roomC;
        foreach ((HeatStep id, string title, double lost, double? half, Expected? healthy) in parts)
        {
            steps.Add(new StaircaseStep(id, title, at, lost, lost / powerW, half, healthy?.Value, healthy?.HalfWidth, false));
            at += lost;
        }

        HeatStep? stuck = Stuck(steps);
        steps = [.. steps.Select(step => step with { Swollen = step.Id == stuck })];
        double rise = chipC - roomC;
        double? more =
            sound is { RiseC: var all } && all.Z(rise, run.RiseHalfC) > SticksOutZ && rise > RaisedRatio * all.Value
                ? rise - all.Value
                : null;
        string words = Words(steps, sound is not null, more, liquid, run.ThermalLimit is not null, powerW);
        return new HeatStaircase(roomC, chipC, powerW, steps, words)
        {
            Expected = expected is null ? null : ExpectedTop.Of(expected, roomC),
        };
    }

    /// <summary>The same where one step beyond what is expected is said, and not called stuck.</summary>
    /// <param name="why">What stands against that, as the end of a sentence.</param>
    public HeatStaircase Overruled(string why) =>
        Steps.FirstOrDefault(step => step.Swollen) is not { } step
            ? this
            : this with
            {
                Steps = [.. Steps.Select(one => one with { Swollen = false })],
                Sentence = $"{Degrees.By(step.RiseC)} lost from {step.Title}, {Degrees.Span(step.ExpectedC):0} expected; {why}",
            };

    /// <summary>
    /// The step that sticks out: of those that exceed what is expected beyond doubt, the one that does so by most degrees; null for none.
    /// </summary>
    private static HeatStep? Stuck(List<StaircaseStep> steps) =>
        StuckOf([
            .. steps
                .Where(step => step.ExpectedC is not null)
                .Select(step =>
                    (
                        step.Id,
                        step.RiseC - step.ExpectedC!.Value,
                        step.ExpectedC.Value,
                        Root(step.HalfWidthC ?? StaircaseStep.MeasuredC, step.ExpectedHalfWidthC!.Value)
                    )
                ),
        ]);

    /// <summary>
    /// Likewise of steps by how much they exceed what is expected, what that is, and half of the 95 % interval of the excess, °C. Cooler
    /// and bulk meet at a time constant that fins lie near:
    /// what one of them has more and the other less has only changed sides.
    /// </summary>
    internal static HeatStep? StuckOf(IReadOnlyList<(HeatStep Id, double ExcessC, double ExpectedC, double HalfC)> steps)
    {
        double Beside(HeatStep id)
        {
            HeatStep? other = id switch
            {
                HeatStep.Cooler => HeatStep.Bulk,
                HeatStep.Bulk => HeatStep.Cooler,
                _ => null,
            };
            return Math.Min(0, steps.FirstOrDefault(step => step.Id == other).ExcessC);
        }

        return steps
            .Select(step => (step.Id, Excess: step.ExcessC + Beside(step.Id), step.ExpectedC, step.HalfC))
            .Where(step =>
                step.Excess > SticksOutC && step.Excess > SticksOutShare * step.ExpectedC && 1.96 * step.Excess > SticksOutZ * step.HalfC
            )
            .OrderByDescending(step => step.Excess)
            .Select(step => (HeatStep?)step.Id)
            .FirstOrDefault();
    }

    private static double Root(double a, double b) => Math.Sqrt((a * a) + (b * b));

    private static string Words(List<StaircaseStep> steps, bool expected, double? more, bool liquid, bool atLimit, double powerW)
    {
        if (steps.FirstOrDefault(step => step.Swollen) is not { } stuck)
        {
            StaircaseStep largest = steps.MaxBy(step => step.RiseC)!;
            return more is { } degrees
                    ? $"Together the steps lose {Degrees.By(degrees)} more than a sound machine would; which of them cannot "
                        + $"be told from this "
                        + "run."
                : expected && atLimit
                    ? $"No step sticks out: each is about what a sound machine loses there, and that is too much for {powerW:0} W in "
                        + $"this room."
                : expected ? "No step sticks out: each is about what a sound machine loses there."
                : $"Most is lost from {largest.Title}: {Degrees.By(largest.RiseC)}. With the kind of cooler noted, it could "
                    + $"be told whether "
                    + $"that is sound.";
        }

        string figures = $"{Degrees.By(stuck.RiseC)} lost from {stuck.Title}, {Degrees.Span(stuck.ExpectedC):0} expected.";
        return stuck.Id switch
        {
            HeatStep.CaseAir => $"Heat stuck in the case: its air is {Degrees.By(stuck.RiseC)} above the room, "
                + $"{Degrees.Span(stuck.ExpectedC):0} expected. Take the side "
                + $"panel off and see how far it drops (5 min).",
            HeatStep.Chip => $"Heat stuck at the chip: {figures} Lift the cooler and look at the paste print (15 min).",
            HeatStep.Cooler when liquid =>
                $"Heat stuck in the loop: {figures} Feel both tubes: one hot and one cold means hardly any flow (2 min).",
            HeatStep.Cooler => $"Heat stuck in the cooler: {figures} Look at how the base sits, then at its heat pipes (15 min).",
            // Without a thermometer in the case its air is part of this step.
            _ when steps.TrueForAll(step => step.Id != HeatStep.CaseAir) =>
                $"Heat stuck at the {(liquid ? "radiator" : "fins")} or in the case: {figures} Take the side panel off: if it drops a lot "
                    + $"it is the case (5 min), else look for dust and at the fan.",
            _ => $"Heat stuck at the {(liquid ? "radiator" : "fins")}: {figures} Look for dust, and at the fan and its direction (3 min).",
        };
    }
}

/// <summary>Where a sound machine stands, and what that is known from.</summary>
/// <param name="ChipC">°C.</param>
/// <param name="At">Under which conditions, a phrase.</param>
/// <param name="ByParts">Whether its own parts are known; otherwise it is any machine with a cooler of its kind.</param>
/// <param name="Sources">A phrase each: “Mullion 120, measured here”.</param>
/// <param name="Missing">What to note so that it could be told better, a phrase each.</param>
public sealed record ExpectedTop(
    double ChipC,
    double HalfWidthC,
    string At,
    bool ByParts,
    IReadOnlyList<string> Sources,
    IReadOnlyList<string> Missing
)
{
    /// <summary>Of a machine of these parts.</summary>
    /// <param name="at">Its steady state.</param>
    public static ExpectedTop? Of(
        Build build,
        CoolerPart? cooler,
        HeatMachine machine,
        SteadyResult at,
        double watts,
        double cardW,
        double roomC
    ) =>
        at.ChipC is not { } chip
            ? null
            : new(
                chip,
                machine.ChipHalfWidthC(at, watts, roomC),
                $"at {watts:0} W{(cardW > 0 ? $" beside a card at {cardW:0} W" : "")}, in a room of {Degrees.At(roomC)}, its "
                    + $"fans as they are "
                    + (at.CoolerRpm is { } rpm and > 0 ? $"steered ({rpm:0} rpm on the cooler)" : "steered"),
                cooler?.Performance is { Count: > 0 },
                HeatMachines.Sources(build, cooler),
                HeatMachines.Missing(build, cooler)
            );

    /// <summary>Of a run.</summary>
    public static ExpectedTop Of(ExpectedRun expected, double roomC) =>
        new(
            roomC + expected.State.RiseC.Value,
            expected.State.RiseC.HalfWidth,
            "at this run’s own watts, fan speed, room, panel and card",
            expected.Reference.ByParts,
            expected.Reference.Sources,
            expected.Reference.Missing
        );
}

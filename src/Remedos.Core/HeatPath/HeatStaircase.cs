namespace Remedos.Core.HeatPath;

/// <summary>One step of the staircase: a stretch of the heat path, from the room towards the chip.</summary>
/// <param name="Id">case-air, bulk, cooler or chip.</param>
/// <param name="Title">What lies there in this kind of machine.</param>
/// <param name="FromC">Temperature at its foot, °C.</param>
/// <param name="RiseC">Degrees lost there, °C.</param>
/// <param name="ResistanceCPerW">Its width: the rise over the sustained power, °C/W.</param>
/// <param name="HalfWidthC">Half of the rise's 95 % interval, °C; null where it was measured at both ends.</param>
/// <param name="HealthyC">What a healthy machine of this kind would lose there at this power, °C; null when nothing is expected.</param>
/// <param name="Swollen">Whether this is the step that sticks out.</param>
public sealed record StaircaseStep(string Id, string Title, double FromC, double RiseC, double ResistanceCPerW, double? HalfWidthC, double? HealthyC, bool Swollen);

/// <summary>The heat path as a staircase from the room to the chip, at the sustained power.</summary>
/// <param name="RoomC">Its foot, °C.</param>
/// <param name="ChipC">Its top: the sustained temperature, °C.</param>
/// <param name="PowerW">The sustained power, W.</param>
/// <param name="Sentence">Where the heat sticks, how much of it, what is healthy, and what to look at; or that no step sticks out.</param>
public sealed record HeatStaircase(double RoomC, double ChipC, double PowerW, IReadOnlyList<StaircaseStep> Steps, string Sentence)
{
    /// <summary>A step is swollen when it exceeds the healthy one by this share, by its own half-width, and by these degrees.</summary>
    private const double SwollenShare = 0.35, SwollenC = 4;

    public const string CaseAir = "case-air";

    /// <summary>Builds the stairs. Chip and cooler come from the fit; the rest of the measured rise, other heat included, lies behind them.</summary>
    /// <param name="bands">chip, cooler, bulk.</param>
    /// <param name="roomC">°C.</param>
    /// <param name="chipC">Sustained, °C.</param>
    /// <param name="powerW">Sustained, W.</param>
    /// <param name="coolerKind">As in the conditions; null when unknown.</param>
    /// <param name="cardW">The graphics card's power in the same window, W; 0 without one.</param>
    /// <param name="caseAirC">The case air in the same window, when it was logged, °C.</param>
    /// <param name="coolantC">The coolant likewise, °C.</param>
    /// <param name="atLimit">Whether the run was held at its temperature limit.</param>
    /// <param name="fanRests">Whether the fan's own steering may hold it slow because the chip is cool: then much lost at the fins is no fault.</param>
    public static HeatStaircase Of(IReadOnlyList<HeatBand> bands, double roomC, double chipC, double powerW, string? coolerKind, double cardW, double? caseAirC, double? coolantC, bool atLimit, bool fanRests = false)
    {
        HeatBand Band(string name) => bands.Single(band => band.Band == name);
        HealthyPath? healthy = HealthyPath.Of(coolerKind);
        (HeatBand chip, HeatBand cooler, HeatBand bulk) = (Band(HeatBand.Chip), Band(HeatBand.Cooler), Band(HeatBand.Bulk));
        bool liquid = coolerKind == "liquid" || coolantC is not null;
        double chipRise = chip.RiseC, coolerRise = cooler.RiseC;
        double? coolerHalf = cooler.HalfWidthCPerW * powerW;
        if (coolantC is { } coolant && coolant > roomC && coolant < chipC - chipRise)
        {
            // The coolant is measured: what lies between it and the chip's own band is block and flow, whatever the fit says.
            (coolerRise, coolerHalf) = (chipC - chipRise - coolant, chip.HalfWidthCPerW * powerW);
        }

        double behind = Math.Max(0, chipC - roomC - chipRise - coolerRise);
        double caseRise = caseAirC is { } air ? Math.Clamp(air - roomC, 0, behind) : 0;
        List<(string Id, string Title, double Rise, double? Half, double? Healthy)> parts = [];
        if (caseAirC is not null)
        {
            parts.Add((CaseAir, "case air to room", caseRise, null, healthy?.CaseCPerW * (powerW + cardW)));
        }

        string to = caseAirC is null ? "room" : "case air";
        parts.Add((HeatBand.Bulk, liquid ? $"radiator to {to}" : $"fins to {to}", behind - caseRise, bulk.HalfWidthCPerW * powerW,
            caseAirC is null ? (healthy?.BulkCPerW * powerW) + (healthy?.CaseCPerW * cardW) : (healthy?.BulkCPerW - healthy?.CaseCPerW) * powerW));
        parts.Add((HeatBand.Cooler, liquid ? "block to liquid" : "base to fins", coolerRise, coolerHalf, healthy?.CoolerCPerW * powerW));
        parts.Add((HeatBand.Chip, liquid ? "chip to block" : "chip to base", chipRise, chip.HalfWidthCPerW * powerW, healthy?.ChipCPerW * powerW));
        string[] sticksOut = [.. parts.Where(part => part.Healthy is { } expected && part.Rise - expected is var excess && excess > SwollenC && excess > SwollenShare * expected && excess > (part.Half ?? 0))
            .OrderByDescending(part => part.Rise - part.Healthy).Select(part => part.Id)];
        string? swollen = sticksOut.FirstOrDefault(id => !(fanRests && id == HeatBand.Bulk));
        double at = roomC;
        List<StaircaseStep> steps = [];
        foreach ((string id, string title, double rise, double? half, double? expected) in parts)
        {
            steps.Add(new StaircaseStep(id, title, at, rise, rise / powerW, half, expected, id == swollen));
            at += rise;
        }

        return new HeatStaircase(roomC, chipC, powerW, steps, Words(steps, healthy is not null, liquid, atLimit, fanRests && sticksOut.Contains(HeatBand.Bulk), powerW));
    }

    private static string Words(List<StaircaseStep> steps, bool expected, bool liquid, bool atLimit, bool slowFan, double powerW)
    {
        if (steps.FirstOrDefault(step => step.Swollen) is not { } stuck)
        {
            StaircaseStep largest = steps.MaxBy(step => step.RiseC)!;
            return slowFan ? $"Most is lost at the {(liquid ? "radiator" : "fins")}: {steps.Single(step => step.Id == HeatBand.Bulk).RiseC:0} °C, while the chip is cool enough for slow fans. A run with the fans fixed tells whether it is more than the fans."
                : expected && atLimit ? $"No step sticks out: each is about what this kind of cooler loses when healthy, and that is too much for {powerW:0} W in this room."
                : expected ? "No step sticks out: each is about what this kind of machine loses when healthy."
                : $"Most is lost from {largest.Title}: {largest.RiseC:0} °C. With the kind of cooler noted, it could be told whether that is healthy.";
        }

        string figures = $"{stuck.RiseC:0} °C lost from {stuck.Title}, {stuck.HealthyC:0} expected.";
        return stuck.Id switch
        {
            CaseAir => $"Heat stuck in the case: its air is {stuck.RiseC:0} °C above the room, {stuck.HealthyC:0} expected. Take the side panel off and see how far it drops (5 min).",
            HeatBand.Chip => $"Heat stuck at the chip: {figures} Lift the cooler and look at the paste print (15 min).",
            HeatBand.Cooler when liquid => $"Heat stuck in the loop: {figures} Feel both tubes: one hot and one cold means hardly any flow (2 min).",
            HeatBand.Cooler => $"Heat stuck in the cooler: {figures} Look at how the base sits, then at its heat pipes (15 min).",
            _ => $"Heat stuck at the {(liquid ? "radiator" : "fins")}: {figures} Look for dust, and at the fan and its direction (3 min).",
        };
    }
}

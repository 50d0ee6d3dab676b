using Remedos.Core.Airflow;
using Remedos.Core.HeatPath;

namespace Remedos.Core.Matching;

/// <summary>A figure with the ends of its 95 % interval.</summary>
public sealed record Interval(double Value, double Low, double High);

/// <summary>What a cooler will do in a build at the processor's sustained power, the card at work, level.</summary>
/// <param name="Place">Where its radiator hangs; null for an air cooler.</param>
/// <param name="FanRpm">Where its fans settle; null without fans.</param>
/// <param name="HeadroomW">What the chip could draw more until it is at its limit; below 0 it throttles by as much.</param>
/// <param name="CaseAirC">What everything in the case breathes.</param>
/// <param name="HoldsW">What the chip could draw in all.</param>
internal sealed record Prediction(string? Place, Interval TemperatureC, Interval HottestRoomTemperatureC, bool Throttles, double? FanRpm, double NoiseDba, double HeadroomW, double HoldsW, double CaseAirC, bool ByClaimAlone);

/// <summary>The machine at rest in closed form: room, case air, fins, base, die; the fan at the speed where its steering and the chip's temperature agree.</summary>
internal sealed class Predictor(Build build)
{
    /// <summary>Fans follow the processor from this share at this temperature to full speed so far below the limit.</summary>
    private const double SteeredFromC = 45, SteeredFromShare = 0.3, FullBelowLimitC = 12;

    /// <summary>A processor of which it is not known, °C/W.</summary>
    public const double UsualInsideCPerW = 0.08;

    /// <summary>Half-widths at 95 %, shares: of a cooler by catalogue, by this bench, by a claim; of the die's own resistance; of the case's rise. And of a mount, °C.</summary>
    private const double CatalogueShare = 0.1, MeasuredShare = 0.05, ClaimShare = 0.4, InsideShare = 0.1, InsideUnknownShare = 0.35, AirShare = 0.25, MountC = 1.5;

    private const int Rounds = 40;

    private readonly BuildAir _air = new(build);

    private readonly double _card = build.Graphics?.PowerW ?? 0, _watts = build.Processor.SustainedPowerW, _limit = build.Processor.TemperatureLimitC;

    private readonly double _inside = build.Processor.InsideResistanceCPerW ?? UsualInsideCPerW, _hottest = Math.Max(build.HottestRoomC ?? build.RoomC, build.RoomC);

    public Prediction Of(CoolerPart cooler, string? place, double? mostDba)
    {
        Mounted mounted = new(cooler, place, _air);
        double min = cooler.Fans?.Min(fan => (double?)fan.MinRpm) ?? 0, max = mounted.MaxRpm;
        // As fast as the owner can bear; where that does not hold the chip, as fast as it must.
        double bearable = mostDba is { } most ? mounted.Bearable(most) : max;
        double rpm = Settle(mounted, build.RoomC, min, Math.Max(min, bearable));
        if (bearable < max && Chip(mounted, build.RoomC, rpm, _watts, out _) > _limit)
        {
            (bearable, rpm) = (max, Settle(mounted, build.RoomC, min, max));
        }

        double hottestRpm = _hottest == build.RoomC ? rpm : Settle(mounted, _hottest, min, Math.Max(min, bearable));
        double now = Chip(mounted, build.RoomC, rpm, _watts, out double air), hot = Chip(mounted, _hottest, hottestRpm, _watts, out double hotAir);
        double holds = Holds(mounted, Math.Max(rpm, bearable));
        return new Prediction(
            place, Around(mounted, now, air - build.RoomC, rpm), Around(mounted, hot, hotAir - _hottest, hottestRpm), now > _limit, max > 0 ? Math.Round(rpm) : null, mounted.NoiseDba(rpm), holds - _watts, holds, air, cooler.Performance is not { Count: > 0 });
    }

    /// <summary>What the chip may draw with its fans at a speed until it is at its limit; linear in the power, for every heat is.</summary>
    private double Holds(in Mounted mounted, double rpm)
    {
        double atNone = Chip(mounted, build.RoomC, rpm, 0, out _), at = Chip(mounted, build.RoomC, rpm, _watts, out _);
        return _watts * (_limit - atNone) / (at - atNone);
    }

    private double Chip(in Mounted mounted, double roomC, double rpm, double watts, out double caseAirC)
    {
        // A radiator that blows in breathes the room and leaves its heat inside; one that blows out breathes the case and takes it along.
        caseAirC = roomC + ((_card + BuildAir.BoardW + (mounted.Exhausts ? 0 : watts)) / mounted.WPerK(rpm));
        return (mounted.BreathesRoom ? roomC : caseAirC) + (watts * (_inside + mounted.Curve.At(rpm)));
    }

    /// <summary>The speed at which the steering and the temperature agree; the one rises with it and the other falls, so it is one.</summary>
    private double Settle(in Mounted mounted, double roomC, double min, double max)
    {
        if (mounted.MaxRpm == 0)
        {
            return 0;
        }

        (double low, double high) = (min, max);
        (double atLow, double atHigh) = (Wants(mounted, roomC, low), Wants(mounted, roomC, high));
        if (atHigh >= 0 || atLow <= 0)
        {
            return atHigh >= 0 ? high : low;
        }

        // Regula falsi with the Illinois rule (Dowell & Jarratt 1971).
        double rpm = high;
        for (int round = 0, side = 0; round < Rounds && high - low > 0.1; round++)
        {
            rpm = high - (atHigh * (high - low) / (atHigh - atLow));
            double at = Wants(mounted, roomC, rpm);
            if (Math.Abs(at) < 0.1)
            {
                break;
            }

            (low, atLow, high, atHigh) = at > 0 ? (rpm, at, high, side == 1 ? atHigh / 2 : atHigh) : (low, side == -1 ? atLow / 2 : atLow, rpm, at);
            side = Math.Sign(at);
        }

        return rpm;
    }

    /// <summary>How much faster the steering would have the fans turn than they do, rpm.</summary>
    private double Wants(in Mounted mounted, double roomC, double rpm)
    {
        double share = SteeredFromShare + ((1 - SteeredFromShare) * (Chip(mounted, roomC, rpm, _watts, out _) - SteeredFromC) / (_limit - FullBelowLimitC - SteeredFromC));
        return (Math.Clamp(share, SteeredFromShare, 1) * mounted.MaxRpm) - rpm;
    }

    /// <summary>What the case's air adds to a run's resistance while the processor works alone, °C/W.</summary>
    public static double CaseCPerW(Build build, CoolerPart cooler, double watts, double rpm)
    {
        string? place = cooler.IsLiquid ? Fit.Of(build, cooler).Places is { Count: > 0 } places ? places[0] : "top" : null;
        Mounted mounted = new(cooler, place, new BuildAir(build));
        return mounted.BreathesRoom ? 0 : (AirLoad.CardW(build, AirLoad.Processor) + BuildAir.BoardW + (mounted.Exhausts ? 0 : watts)) / mounted.WPerK(rpm) / watts;
    }

    /// <summary>The predicted heat path, for the same picture that a run has.</summary>
    /// <param name="rpm">Where its fans settle.</param>
    public HeatStaircase StaircaseOf(CoolerPart cooler, string? place, double rpm)
    {
        Mounted mounted = new(cooler, place, _air);
        double chip = Chip(mounted, build.RoomC, rpm, _watts, out double air);
        double solid = mounted.Curve.SolidCPerW, paste = Math.Min(PasteCPerW, PasteShare * solid), fins = Math.Max(0, mounted.Curve.At(rpm) - solid);
        (string Id, string Title, double RiseC)[] steps =
        [
            (HeatStaircase.CaseAir, "case air to room", mounted.BreathesRoom ? 0 : air - build.RoomC), (HeatBand.Bulk, cooler.IsLiquid ? mounted.BreathesRoom ? "radiator to room" : "radiator to case air" : "fins to case air", _watts * fins),
            (HeatBand.Cooler, cooler.IsLiquid ? "block to liquid" : "base to fins", _watts * (solid - paste)), (HeatBand.Chip, cooler.IsLiquid ? "chip to block" : "chip to base", _watts * (_inside + paste)),
        ];
        List<StaircaseStep> stairs = [];
        double at = build.RoomC;
        foreach ((string id, string title, double rise) in steps.Where(step => step.RiseC > 0))
        {
            stairs.Add(new StaircaseStep(id, title, at, rise, rise / _watts, null, null, false));
            at += rise;
        }

        return new HeatStaircase(build.RoomC, chip, _watts, stairs, $"Predicted: {_watts:0} W at {chip:0} °C.");
    }

    /// <summary>Of a cooler's solid part, what lies in the paste: it belongs to the chip's step, as in a run.</summary>
    private const double PasteCPerW = 0.045, PasteShare = 0.5;

    private Interval Around(in Mounted mounted, double value, double caseRiseC, double rpm)
    {
        double share = mounted.Cooler.SpreadShare is { } known ? known : mounted.Cooler.Performance is not { Count: > 0 } ? ClaimShare : mounted.Cooler.Measured ? MeasuredShare : CatalogueShare;
        double half = Math.Sqrt(
            Square(share * mounted.Curve.At(rpm) * _watts) + Square((build.Processor.InsideResistanceCPerW is null ? InsideUnknownShare : InsideShare) * _inside * _watts) + Square(AirShare * caseRiseC) + Square(MountC));
        return new Interval(value, value - half, value + half);
    }

    private static double Square(double value) => value * value;
}

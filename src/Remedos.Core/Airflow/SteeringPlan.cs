using Remedos.Core.Machines;

namespace Remedos.Core.Airflow;

/// <summary>A curve to type into the firmware, and what it does.</summary>
/// <param name="Header">The one it is for.</param>
/// <param name="ProcessorC">Both chips at full in the room.</param>
/// <param name="HottestC">In the hottest room of the year.</param>
/// <param name="NoiseDba">At full in the room.</param>
/// <param name="RestingDba">While nothing works.</param>
/// <param name="LateMinutes">How long fans that follow the liquid lag behind the chip; null for others.</param>
/// <param name="Holds">Whether limit and noise are both held.</param>
/// <param name="Sentence">What to do, or what cannot be had together.</param>
public sealed record SteeringAdvice(
    string Header,
    Steering Steering,
    double? ProcessorC,
    double? HottestC,
    double? CardC,
    double NoiseDba,
    double RestingDba,
    double? LateMinutes,
    bool Holds,
    string Sentence
);

/// <summary>
/// Finds a header's curve from a wanted limit and a wanted noise. At each work the fans' least sufficient speed is looked for (temperatures
/// fall and noise rises with the speed, so it is bracketed), and the curve is laid
/// through those states: there it holds by itself. Between them a rising curve against a falling temperature has one crossing.
/// </summary>
public static class SteeringPlan
{
    /// <summary>No fan is steered below this, for many would stop; a point so far below the limit calls for all, °C.</summary>
    private const double LeastShare = 0.25,
        FullBelowC = 3;

    /// <summary>A steeper last stretch would make the fans hunt, °C.</summary>
    private const double LeastStepC = 3;

    private const double HalfWork = 0.5;

    private const int Halvings = 24;

    /// <summary>A sealed loop lasts longer with its liquid no hotter than this, °C.</summary>
    private const double LiquidAtMostC = 50;

    /// <summary>Later than this is told, minutes.</summary>
    private const double LateFrom = 0.75;

    /// <summary>The advice for a header of a plan.</summary>
    /// <param name="header">Index into the plan's headers; it is steered.</param>
    /// <param name="source">What it shall follow; of <see cref="Steering.Sources"/>.</param>
    /// <param name="limitC">Wanted of the processor at full.</param>
    /// <param name="noiseDba">Wanted at most; null when it does not matter.</param>
    public static SteeringAdvice Of(
        Build build,
        CoolerPart? cooler,
        AirPlan plan,
        int header,
        string source,
        double limitC,
        double? noiseDba
    )
    {
        AirSolver solver = new(build, cooler, plan);
        double watts = AirLoad.ProcessorW(build, AirLoad.Both),
            card = AirLoad.CardW(build, AirLoad.Both),
            hottest = Math.Max(build.HottestRoomC ?? build.RoomC, build.RoomC);
        AirAnswer At(double share, double work, double room) =>
            solver.Solve(
                AirLoad.ProcessorW(build, AirLoad.Rest) + (work * (watts - AirLoad.ProcessorW(build, AirLoad.Rest))),
                AirLoad.CardW(build, AirLoad.Rest) + (work * (card - AirLoad.CardW(build, AirLoad.Rest))),
                room,
                header,
                share
            );

        // Seals and pump of a loop want cooler liquid than the chip needs, where it can be had.
        bool spares = (At(1, 1, build.RoomC).LiquidC ?? 0) <= LiquidAtMostC;
        bool Holds(AirAnswer air) => (air.ProcessorC ?? 0) <= limitC && (!spares || (air.LiquidC ?? 0) <= LiquidAtMostC);
        double need = Least(share => Holds(At(share, 1, build.RoomC))) ?? 1,
            loudest = noiseDba is { } most ? Least(share => At(share, 1, build.RoomC).NoiseDba > most) ?? 1 : 1;
        bool cools = (At(1, 1, build.RoomC).ProcessorC ?? 0) <= limitC,
            quiet = need <= loudest || noiseDba is null;
        // The limit goes before the ears: a chip that is too hot is a fault, a fan that is heard is none.
        double full = Math.Max(LeastShare, need),
            half = Math.Max(
                LeastShare,
                Math.Min(full, Least(share => (At(share, HalfWork, build.RoomC).ProcessorC ?? 0) <= limitC - 8) ?? full)
            );
        AirAnswer resting = At(LeastShare, 0, build.RoomC),
            middle = At(half, HalfWork, build.RoomC),
            atFull = At(full, 1, build.RoomC);
        // What cannot be held is met with all there is: at full where the chip comes to the wanted limit, and before what lies beyond.
        double over = cools ? 0 : (atFull.ProcessorC ?? limitC) - limitC;
        (double C, double Share)[] ceiling = cools ? [Ceiling(source, limitC, build, atFull)] : [];
        Steering steering = new(
            source,
            Points([
                (resting.SourceC(source), LeastShare),
                (Math.Min(middle.SourceC(source), atFull.SourceC(source) - over - 1), half),
                (atFull.SourceC(source) - over, full),
                .. ceiling,
            ])
        );
        AirSolver settled = new(
            build,
            cooler,
            plan with
            {
                Headers = [.. plan.Headers.Select((one, i) => i == header ? one with { Steering = steering } : one)],
            }
        );
        AirAnswer now = settled.Solve(),
            hot = settled.Solve(AirLoad.Both, hottest);
        double? late =
            source == "coolant" && cooler is { IsLiquid: true, RadiatorSizeMm: { } size }
                ? Math.Log(2) * Defaults.LoopJPerKMm * size * new CoolerCurve(cooler).FinsAt(now.CoolerRpm ?? 0) / 60
                : null;
        bool holds = cools && quiet;
        string name = plan.Headers[header].Name;
        string sentence =
            !cools
                ? $"Even at full, {name} does not hold {Degrees.At(limitC)}: it reaches {Degrees.At(At(1, 1, build.RoomC).ProcessorC)} at "
                    + $"{At(1, 1, build.RoomC).NoiseDba:0} dB(A). Cap the power or change the cooler."
            : !quiet
                ? $"{Degrees.At(limitC)} and {noiseDba:0} dB(A) cannot both be had: {Degrees.At(limitC)} needs {now.NoiseDba:0} dB(A), and "
                    + $"{noiseDba:0} dB(A) gives {Degrees.At(At(Math.Max(LeastShare, loudest), 1, build.RoomC).ProcessorC)}."
            : $"Enter these points for {name}: {Degrees.At(now.ProcessorC)} and {now.NoiseDba:0} dB(A) with both at "
                + $"full{(hottest > build.RoomC ? $", {Degrees.At(hot.ProcessorC)} in the hottest room" : "")}.";
        string lag =
            late > LateFrom
                ? $" The liquid needs {late:0.0} minutes to get half-way: the fans lag by that much, and run on as long after "
                    + $"the work."
                : "";
        return new SteeringAdvice(
            name,
            steering,
            now.ProcessorC,
            hot.ProcessorC,
            now.CardC,
            now.NoiseDba,
            settled.Solve(AirLoad.Rest).NoiseDba,
            late,
            holds,
            sentence + lag
        );
    }

    /// <summary>The least share at which something holds that holds from some speed on; null when it never does.</summary>
    private static double? Least(Func<double, bool> holds)
    {
        if (!holds(1))
        {
            return null;
        }

        (double low, double high) = (0.05, 1);
        for (int i = 0; i < Halvings && high - low > 0.001; i++)
        {
            double middle = (low + high) / 2;
            (low, high) = holds(middle) ? (low, middle) : (middle, high);
        }

        return high;
    }

    /// <summary>Where it turns at full: what the source reads when the chip has come to just below its own limit.</summary>
    private static (double C, double Share) Ceiling(string source, double limitC, Build build, AirAnswer full)
    {
        double nearLimit = Math.Max(limitC + 2, build.Processor.TemperatureLimitC - FullBelowC);
        double now = full.SourceC(source),
            far = now + Math.Max(LeastStepC, nearLimit - (full.ProcessorC ?? nearLimit));
        return (
            source is "cpu" or "cpu-gpu" ? nearLimit
            : source == "coolant" ? Math.Max(now + LeastStepC, Math.Min(far, LiquidAtMostC + LeastStepC))
            : far,
            1
        );
    }

    /// <summary>Whole degrees and percents, each hotter than the one before and no slower.</summary>
    private static SteeringPoint[] Points((double C, double Share)[] states)
    {
        List<SteeringPoint> points = [];
        foreach ((double c, double share) in states)
        {
            SteeringPoint point = new(Math.Round(c), Math.Ceiling((100 * share) - 0.001));
            if (points.Count == 0)
            {
                points.Add(point);
            }
            else if (point.C > points[^1].C && point.Percent >= points[^1].Percent)
            {
                points.Add(point);
            }
            else if (point.Percent > points[^1].Percent)
            {
                points.Add(point with { C = points[^1].C + 1 });
            }
        }

        return [.. points];
    }
}

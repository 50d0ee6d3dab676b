using Remedos.Core.HeatPath;
using Remedos.Core.Runs;

namespace Remedos.Core.Comparison;

/// <summary>A run with the conditions under which it was made, and the mount that it was made on.</summary>
/// <param name="Analysis">What was read from it.</param>
/// <param name="Conditions">How it was made.</param>
/// <param name="Mount">Runs with the same one share one mounting of the cooler; null for a mount of its own.</param>
public sealed record ConditionedRun(RunAnalysis Analysis, RunConditions Conditions, string? Mount = null);

/// <summary>Whose cooling is judged.</summary>
public enum Subject
{
    /// <summary>The processor.</summary>
    Processor,

    /// <summary>The graphics card.</summary>
    Graphics,
}

/// <summary>Names of subjects as other programs read them.</summary>
public static class Subjects
{
    /// <summary>The subjects' names in JSON.</summary>
    public const string Processor = "processor",
        Graphics = "graphics";

    /// <summary>The name of a subject in JSON.</summary>
    public static string Name(this Subject subject) => subject == Subject.Graphics ? Graphics : Processor;

    /// <summary>The subject of a name; null where there is none of it.</summary>
    public static Subject? Parse(string? name) =>
        name switch
        {
            Processor => Subject.Processor,
            Graphics => Subject.Graphics,
            _ => null,
        };

    /// <summary>In the middle of a sentence.</summary>
    public static string Words(this Subject subject) => subject == Subject.Graphics ? "graphics card" : "processor";
}

/// <summary>What one run says of one subject, ready to be compared. Everything that arithmetic needs is there.</summary>
/// <param name="Mount">Runs with the same one share a mount.</param>
/// <param name="RiseC">Above the room, where the run was going if it was stopped before it was level, °C.</param>
/// <param name="UncertaintyC">Standard uncertainty of that, the room's apart, °C.</param>
/// <param name="RoomUncertaintyC">Standard uncertainty of the room, shared by all runs of a mount, °C.</param>
/// <param name="RoomC">°C.</param>
/// <param name="PowerW">Sustained, W.</param>
/// <param name="Fan">The fan's part; null where it is not logged.</param>
/// <param name="OtherHeatC">What others put into the subject's air; null where the run does not tell.</param>
internal sealed record Reading(
    string Mount,
    double RiseC,
    double UncertaintyC,
    double RoomUncertaintyC,
    double RoomC,
    double PowerW,
    FanResistance? Fan,
    double? OtherHeatC
)
{
    /// <summary>The temperature as it ran, °C.</summary>
    public required double TemperatureC { get; init; }

    public double? LimitC { get; init; }

    public bool AtLimit { get; init; }

    public double? ClockMHz { get; init; }

    public double? Score { get; init; }

    public double? SoundDba { get; init; }

    /// <summary>The graphics card's watts in a reading of the processor; 0 without a card at work.</summary>
    public double CardPowerW { get; init; }

    /// <summary>Part of a card's resistance that goes with its fans' speed, and its standard uncertainty, as shares.</summary>
    private const double CardFanShare = 0.4,
        CardFanUncertainty = 0.2;

    /// <summary>What a run says; null where it has no load, room or power for this subject.</summary>
    /// <param name="run">The run.</param>
    /// <param name="subject">Whose cooling.</param>
    /// <param name="index">Names its mount where nothing else does.</param>
    public static Reading? Of(ConditionedRun run, Subject subject, int index)
    {
        string mount = run.Mount ?? $"#{index}";
        return subject == Subject.Graphics ? OfCard(run, mount) : OfProcessor(run, mount);
    }

    private static Reading? OfProcessor(ConditionedRun run, string mount)
    {
        RunAnalysis a = run.Analysis;
        if (a is not { Load: { SustainedPowerW: > 1 and { } watts } load, AmbientC: { } room, Resistance: { } resistance })
        {
            return null;
        }

        double open = load is { Settled: false, ForecastFinalTemperatureC: { } final } ? final - load.SustainedTemperatureC : 0;
        double roomU = a.AmbientUncertaintyC ?? RunFigures.SingleReadingC;
        double u = Math.Max(0, Square(resistance.HalfWidthCPerW * watts / 1.96) - Square(roomU));
        return new Reading(
            mount,
            load.SustainedTemperatureC + open - room,
            Math.Sqrt(u + Square(Forecast.DoubtShare * open / 1.96)),
            roomU,
            room,
            watts,
            a.FanResistance,
            a.OwnResistance is null ? null : a.OtherHeatRiseC
        )
        {
            TemperatureC = load.SustainedTemperatureC,
            LimitC = run.Conditions.TemperatureLimitC,
            AtLimit = a.ThermalLimit is not null,
            ClockMHz = load.SustainedClockMHz,
            Score = load.SustainedScore ?? run.Conditions.Score,
            SoundDba = load.SoundDba ?? run.Conditions.SoundAtOneMetreDba,
            CardPowerW = a.Beside?.GraphicsPowerW ?? 0,
        };
    }

    private static Reading? OfCard(ConditionedRun run, string mount)
    {
        if (run.Analysis.Graphics is not { PowerW: > 1 and { } watts, RoomC: { } room, RoomResistance: { } resistance } card)
        {
            return null;
        }

        double roomU = run.Analysis.AmbientUncertaintyC ?? RunFigures.SingleReadingC;
        double u = Math.Max(0, Square(resistance.HalfWidthCPerW * watts / 1.96) - Square(roomU));
        FanResistance? fan = card.FanRpm is > 100 and { } rpm
            ? new FanResistance(CardFanShare * resistance.ValueCPerW, CardFanUncertainty * resistance.ValueCPerW, rpm)
            : null;
        // What the processor puts into the case air is the same on both sides, or is told: it is left in.
        return new Reading(mount, card.Core.SustainedC - room, Math.Sqrt(u), roomU, room, watts, fan, 0)
        {
            TemperatureC = card.Core.SustainedC,
            LimitC = run.Conditions.GpuTemperatureLimitC,
            AtLimit = card.ThermalLimit is not null,
            Score = run.Conditions.Score,
            SoundDba = run.Analysis.Load?.SoundDba ?? run.Conditions.SoundAtOneMetreDba,
        };
    }

    private static double Square(double x) => x * x;
}

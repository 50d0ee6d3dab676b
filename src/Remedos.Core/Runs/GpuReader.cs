using Remedos.Core.Logs;
using Remedos.Core.Signals;

namespace Remedos.Core.Runs;

/// <summary>A graphics card's temperature at one place.</summary>
/// <param name="PeakC">Highest reading, blips aside, °C.</param>
/// <param name="SustainedC">Mean over the card's sustained window, °C.</param>
/// <param name="HalfWidthC">Half of its 95 % interval, °C.</param>
/// <param name="LimitC">Where the card protects itself there; null when unknown.</param>
public sealed record GpuTemperature(double PeakC, double SustainedC, double HalfWidthC, double? LimitC);

/// <summary>What a run tells of the graphics card; its load is its own, and so is its window. Null for what is not logged.</summary>
/// <param name="Load">The card's longest load.</param>
/// <param name="AirC">The air that it breathes: the case's where it is logged, else the room's.</param>
/// <param name="AirIsCase">Whether that is the case's.</param>
/// <param name="Resistance">Core above that air, per watt of the card's.</param>
/// <param name="RoomResistance">Core above the room, per watt of the card's: what a comparison of two machines' air includes.</param>
/// <param name="Limits">By core, hot spot or memory; the first place that is held counts.</param>
/// <param name="HeldAt">core, hot spot or memory: which of them the thermal limit was found at; null without one.</param>
public sealed record GpuFigures(
    Phase Load,
    GpuTemperature Core,
    GpuTemperature? HotSpot,
    GpuTemperature? Memory,
    double? PowerW,
    double? FanRpm,
    double? IdleC,
    double? RoomC,
    double? AirC,
    bool AirIsCase,
    ResistanceFigures? Resistance,
    ResistanceFigures? RoomResistance,
    IReadOnlyList<Limit> Limits,
    string? HeldAt
)
{
    /// <summary>Where on the card a limit was met.</summary>
    public const string AtCore = "core",
        AtHotSpot = "hot spot",
        AtMemory = "memory";

    /// <summary>The limit by heat; null where none was met.</summary>
    public Limit? ThermalLimit => Limits.FirstOrDefault(limit => limit.Kind == LimitKind.Thermal);

    /// <summary>Hot spot above core, °C: what wears when paste dries or a cooler sits askew.</summary>
    public double? GapC => HotSpot?.SustainedC - Core.SustainedC;
}

/// <summary>Reads the graphics card off a run.</summary>
internal static class GpuReader
{
    /// <summary>A card that draws less is at rest, W.</summary>
    private const double WorksAboveW = 25;

    /// <summary>The card under its own load; null where its temperature is not logged or it never worked.</summary>
    public static GpuFigures? Read(Log log, RunConditions conditions, Series? room)
    {
        if (Series.Of(log, ChannelRole.GpuTemperature) is not { } core)
        {
            return null;
        }

        Phase? load = conditions.Load is { } edges
            ? Phases.Around(edges, log)?.FirstOrDefault(phase => phase.Kind == PhaseKind.Load)
            : null;
        load ??= Phases.OfCard(log).Where(phase => phase.Kind == PhaseKind.Load).MaxBy(phase => phase.LengthSeconds);
        Series? power = Series.Of(log, ChannelRole.GpuPower);
        if (load is null)
        {
            return null;
        }

        (double start, double end) = RunAnalyzer.Window(load);
        double? Mean(Series? series) => series?.MeanBetween(start, end);
        if (core.Between(start, end).IsEmpty || Mean(power) < WorksAboveW)
        {
            return null;
        }

        GpuTemperature? Of(Series? series, double? limit) =>
            series is null || series.Between(start, end).IsEmpty ? null
            : Statistics.MeanOf(series.Between(start, end)) is var mean
                ? new GpuTemperature(
                    Statistics.Quantile(series.Median(3).Between(load.StartSeconds, load.EndSeconds), 1),
                    mean.Mean,
                    mean.HalfWidth95,
                    limit
                )
            : null;
        Series? hotSpot = Series.Of(log, ChannelRole.GpuHotspotTemperature),
            memory = Series.Of(log, ChannelRole.GpuMemoryTemperature),
            caseAir = Series.Of(log, ChannelRole.CaseAirTemperature);
        Estimate sustained = Statistics.MeanOf(core.Between(start, end));
        Estimate? watts = power is null ? null : Statistics.MeanOf(power.Between(start, end));
        double? roomC = Mean(room),
            airC = Mean(caseAir) ?? roomC;
        (string Place, Series? Temperature, double? Limit)[] places =
        [
            (GpuFigures.AtCore, core, conditions.GpuTemperatureLimitC),
            (GpuFigures.AtHotSpot, hotSpot, conditions.GpuHotspotLimitC),
            (GpuFigures.AtMemory, memory, conditions.GpuMemoryLimitC),
        ];
        IReadOnlyList<Limit> limits = [];
        string? heldAt = null;
        foreach (
            (string place, Series? temperature, double? limit) in places.Where(place => place is { Temperature: not null, Limit: not null })
        )
        {
            limits = Limits.Find(new LimitSignals(temperature!, power), load, limit, null);
            if (limits.Any(found => found.Kind == LimitKind.Thermal))
            {
                heldAt = place;
                break;
            }
        }

        ResistanceFigures? Above(double? air, bool logged) =>
            RunFigures.Resistance(
                sustained,
                watts,
                air,
                RunFigures.RoomUncertainty(log, logged ? ChannelRole.CaseAirTemperature : ChannelRole.AmbientTemperature, start, end)
            );
        return new GpuFigures(
            load,
            Of(core, conditions.GpuTemperatureLimitC)!,
            Of(hotSpot, conditions.GpuHotspotLimitC),
            Of(memory, conditions.GpuMemoryLimitC),
            watts?.Mean,
            Mean(Series.Of(log, ChannelRole.GpuFanSpeed)),
            core.MeanBetween(Math.Max(0, load.StartSeconds - 60), load.StartSeconds),
            roomC,
            airC,
            caseAir is not null && airC is not null,
            Above(airC, caseAir is not null),
            Above(roomC, logged: false),
            limits,
            heldAt
        );
    }
}

using Remedos.Core.HeatPath;
using Remedos.Core.Logs;
using Remedos.Core.Signals;

namespace Remedos.Core.Runs;

/// <summary>
/// The heat path of a run: the fit of the whole rise, and where a graphics card heats a case air that is measured, two fits that part it.
/// </summary>
/// <param name="Fit">The chip above the room; it makes the forecast.</param>
/// <param name="Parted">The chip above the case air, and the case air above the room, driven by processor and card together; null without
/// need.</param>
/// <param name="AboveRoom">Whether the room was known; if not, the fit's constant holds it too.</param>
public sealed record PathFit(ThermalFit Fit, (ThermalFit AboveCase, ThermalFit Case)? Parted, bool AboveRoom)
{
    /// <summary>What board, supply and card add to the chip, °C.</summary>
    public double OtherHeatC(double cardWatts) =>
        Parted is { } parted
            ? parted.AboveCase.ConstantC + parted.Case.ConstantC + (parted.Case.SelfResistanceCPerW * cardWatts)
            : Fit.ConstantC + (Fit.CardResistanceCPerW * cardWatts);
}

/// <summary>Fits a run where its log can carry it, and says what it lacks where it cannot.</summary>
public static class HeatPathReader
{
    /// <summary>A step of power smaller than this cannot be told from background work, W.</summary>
    private const double SmallestStepW = 10;

    /// <summary>A card below this gives the case air nothing to speak of, W.</summary>
    private const double CardCountsW = 20;

    /// <summary>What an unlogged automatic fan may have moved, as a share of a band.</summary>
    private const double UnknownFanShare = 0.25;

    /// <summary>
    /// Two fits, to the case's air and from there to the room, each put some of the other's lags elsewhere: as a share of the whole path.
    /// </summary>
    private const double PartedShare = 0.18;

    /// <summary>
    /// What processor and card may have lent each other, as a share of the bulk band; more when nothing but their timing tells them apart.
    /// </summary>
    private const double CardShare = 0.35,
        TogetherShare = 0.5;

    /// <summary>Fits the run; null, with the reason among the warnings, when the log cannot carry a fit.</summary>
    public static PathFit? Read(
        Log log,
        RunConditions conditions,
        Series temperature,
        Series? ambient,
        (double Start, double End) window,
        List<Warning> warnings
    )
    {
        string? lacks =
            Series.Of(log, ChannelRole.CpuPower) is not { } power ? "it has no processor power"
            : log.IntervalSeconds > 5 ? $"it has a row every {log.IntervalSeconds:0} s, and one every 5 s or faster is needed"
            : log.DurationSeconds < 240 || log.Samples < 100 ? "it is shorter than four minutes"
            : Statistics.Quantile(power.Values, 0.95) - Statistics.Quantile(power.Values, 0.03) < SmallestStepW
                ? "its power never steps up or down"
            : null;
        if (lacks is not null)
        {
            warnings.Add(new Warning("no-heat-path", $"Where the heat sticks cannot be told from this log: {lacks}."));
            return null;
        }

        // All that was recorded without a gap up to the stretch's end: what went before still warms its first minutes.
        Log whole = log.Whole ?? log;
        if (log.Whole is not null)
        {
            temperature = RunChannels.ChipTemperature(whole, []);
            ambient = RunChannels.Ambient(whole, conditions, []);
        }

        (int from, int first, int behind) = Recording(whole, log.DurationSeconds, window.End);
        double[] Rows(double[]? values) => values is null or { Length: 0 } ? [] : values[from..behind];
        double[] time = Rows(whole.TimeSeconds),
            watts = Rows(Series.Of(whole, ChannelRole.CpuPower)!.Values),
            fan = Rows(FanRatio(whole, window));
        Series? card = Series.Of(whole, ChannelRole.GpuPower),
            caseAir = Series.Of(whole, ChannelRole.CaseAirTemperature);
        bool cardWorks = card?.MeanBetween(window.Start, window.End) > CardCountsW;
        FitInput Input(double[] rise, double[] power, double[] fanRatio, double[] cardPower) =>
            new(time, rise, power, fanRatio, cardPower, first - from);
        if (ThermalFit.Fit(Input(Rows(Above(temperature, ambient)), watts, fan, cardWorks ? Rows(card!.Values) : [])) is not { } fit)
        {
            return null;
        }

        // Where the case air is measured, what it does to the chip is known, and every watt inside heats it alike.
        bool parts = cardWorks && caseAir is not null && ambient is not null;
        return new PathFit(
            fit,
            parts
                ? (
                    ThermalFit.Fit(Input(Rows(Above(temperature, caseAir)), watts, fan, []))!,
                    ThermalFit.Fit(
                        Input(Rows(Above(caseAir!, ambient)), [.. watts.Zip(Rows(card!.Values), (own, other) => own + other)], [], [])
                    )!
                )
                : null,
            ambient is not null
        );
    }

    /// <summary>The bands at the sustained power, wider where the log leaves something open, with the reason among the warnings.</summary>
    public static IReadOnlyList<HeatBand> Bands(
        PathFit path,
        Log log,
        RunConditions conditions,
        double sustainedPowerW,
        double loadSeconds,
        List<Warning> warnings
    )
    {
        IReadOnlyList<HeatBand> bands = HeatBands.Of(path.Parted?.AboveCase ?? path.Fit, sustainedPowerW, loadSeconds, seed: 1);
        if (path.Parted is { } parted)
        {
            bands =
            [
                .. bands.Zip(HeatBands.Of(parted.Case, sustainedPowerW, loadSeconds, seed: 2), (own, shared) =>
                    new HeatBand(
                        own.Band,
                        own.RiseC + shared.RiseC,
                        own.ResistanceCPerW + shared.ResistanceCPerW,
                        Hypotenuse(own.HalfWidthCPerW, shared.HalfWidthCPerW)
                    )
                ),
            ];
            double whole = bands.Sum(band => band.ResistanceCPerW);
            bands = [.. bands.Select(band => band.Band == HeatStep.Chip ? band : Wider(band, PartedShare * whole))];
        }

        if (path.Fit.Input.FanRatio.Length == 0 && conditions.FanPolicy != "fixed")
        {
            warnings.Add(
                new Warning(
                    "fan-not-logged",
                    "The fan’s speed is not in the log. If it moved, cooler and bulk are less certain than they look; their half-widths "
                        + "allow for it."
                )
            );
            bands = [.. bands.Select(band => band.Band == HeatStep.Chip ? band : Wider(band, UnknownFanShare * band.ResistanceCPerW))];
        }

        if (path.Fit.Input.CardPowerW.Length > 0)
        {
            bool together = path.Parted is null && Correlation(path.Fit.Input.PowerW, path.Fit.Input.CardPowerW) > 0.8;
            bands =
            [
                .. bands.Select(band =>
                    band.Band != HeatStep.Bulk
                        ? band
                        : Wider(band, (together ? TogetherShare : CardShare) * (band.ResistanceCPerW + path.Fit.CardResistanceCPerW))
                ),
            ];
            if (!together)
            {
                return bands;
            }

            warnings.Add(
                new Warning(
                    "card-started-together",
                    "Processor and graphics card worked at the same times, so the heat that each gives the case air cannot be told "
                        + "apart. A run of the processor alone, or a sensor in the case air, would tell."
                )
            );
        }

        return bands;
    }

    /// <summary>
    /// Rows of the recording that holds a time: where it begins, where this stretch (from 0) begins in it, and where it ends.
    /// </summary>
    private static (int From, int First, int Behind) Recording(Log whole, double endSeconds, double at)
    {
        double[] time = whole.TimeSeconds;
        int from = 0,
            row = 0;
        for (; row < time.Length && time[row] <= at; row++)
        {
            from = whole.IsGapBefore(row) ? row : from;
        }

        while (row < time.Length && time[row] <= endSeconds && !whole.IsGapBefore(row))
        {
            row++;
        }

        int first = from;
        while (first < row && time[first] < 0)
        {
            first++;
        }

        return (from, first, row);
    }

    /// <summary>The processor fan over its mean in the window; empty when it is not logged or stands still.</summary>
    private static double[] FanRatio(Log log, (double Start, double End) window) =>
        Series.Of(log, ChannelRole.CpuFanSpeed) is { } fan && fan.MeanBetween(window.Start, window.End) is { } reference and > 100
            ? [.. fan.Values.Select(rpm => rpm / reference)]
            : [];

    private static double[] Above(Series warm, Series? cool)
    {
        double[] above = new double[warm.Values.Length];
        for (int i = 0; i < above.Length; i++)
        {
            above[i] = warm.Values[i] - (cool?.Values[i] ?? 0);
        }

        return above;
    }

    private static double Correlation(double[] a, double[] b)
    {
        double meanA = Statistics.Mean(a),
            meanB = Statistics.Mean(b),
            both = 0,
            squaresA = 0,
            squaresB = 0;
        for (int i = 0; i < a.Length; i++)
        {
            both += (a[i] - meanA) * (b[i] - meanB);
            squaresA += (a[i] - meanA) * (a[i] - meanA);
            squaresB += (b[i] - meanB) * (b[i] - meanB);
        }

        return both / Math.Sqrt(Math.Max(1e-12, squaresA * squaresB));
    }

    private static HeatBand Wider(HeatBand band, double byCPerW) => band with { HalfWidthCPerW = Hypotenuse(band.HalfWidthCPerW, byCPerW) };

    private static double Hypotenuse(double a, double b) => Math.Sqrt((a * a) + (b * b));
}

using System.Text.Json.Serialization;
using Remedos.Core.Signals;

namespace Remedos.Core.HeatPath;

/// <summary>A stretch of the heat path.</summary>
[JsonConverter(typeof(KebabEnum<HeatStep>))]
public enum HeatStep
{
    /// <summary>Chip to base: lags of up to 3 s.</summary>
    Chip,

    /// <summary>Base to fins, or block to liquid: 3 to 90 s.</summary>
    Cooler,

    /// <summary>Fins or radiator to the air: more than 90 s.</summary>
    Bulk,

    /// <summary>The case’s air above the room: no lag tells it, only a thermometer.</summary>
    CaseAir,
}

/// <summary>A stretch of the heat path: the lags between two time constants.</summary>
/// <param name="Band">chip, cooler or bulk.</param>
/// <param name="RiseC">Degrees lost there under the sustained power, °C.</param>
/// <param name="ResistanceCPerW">°C/W, of the chip's own heat, at the sustained fan speed.</param>
/// <param name="HalfWidthCPerW">Half of the 95 % interval, °C/W.</param>
public sealed record HeatBand(HeatStep Band, double RiseC, double ResistanceCPerW, double HalfWidthCPerW)
{
    /// <summary>The steps that lags tell apart, from the chip on.</summary>
    public static readonly IReadOnlyList<HeatStep> All = [HeatStep.Chip, HeatStep.Cooler, HeatStep.Bulk];

    /// <summary>Borders between the bands, s.</summary>
    public const double ChipUpToSeconds = 3,
        CoolerUpToSeconds = 90;
}

/// <summary>How well a fit describes a log.</summary>
/// <param name="ResidualC">Root mean square of what it leaves, °C.</param>
/// <param name="ExplainedShare">Share of the rise's variance that it explains, 0…1.</param>
public sealed record FitQuality(double ResidualC, double ExplainedShare);

/// <summary>Reads the bands off a fit, with half-widths (docs/science.md, “The heat path”).</summary>
public static class HeatBands
{
    private const int Draws = 60;

    // All shares below are by least interval score on simulated machines, a twentieth narrower by how many of 3,000 others they held; the
    // proof command shows it on further ones.

    /// <summary>The block bootstrap knows the log's noise, not that real lags are no points of a grid.</summary>
    private const double BootstrapFactor = 1.15;

    /// <summary>A lag this near to a border, as a ratio of time constants, may belong to either side.</summary>
    private const double BorderRatio = 1.8;

    private const double BorderShare = 0.4;

    /// <summary>
    /// Fans, leakage and the chain's own crossings are not quite what the lags assume, as a share of a band. The one in the middle has a
    /// border on either side.
    /// </summary>
    private const double ChipModelShare = 0.043,
        CoolerModelShare = 0.17,
        BulkModelShare = 0.08;

    /// <summary>
    /// The slowest lags and the steady heat of board and supply trade against each other; this share of it may be theirs.
    /// </summary>
    private const double ConstantShare = 0.38;

    /// <summary>
    /// Of what a lag had still to rise at the load's end: more than that may be wrong, for slower ones hide behind it.
    /// </summary>
    private const double UnseenShare = 2.2;

    /// <summary>Bands of a fit at a sustained power, W.</summary>
    /// <param name="fit">The fit.</param>
    /// <param name="sustainedPowerW">What the rises stand for.</param>
    /// <param name="loadSeconds">How long the load lasted: what is slower has not been seen to its end.</param>
    /// <param name="seed">Equal fits with an equal seed give equal half-widths.</param>
    public static IReadOnlyList<HeatBand> Of(ThermalFit fit, double sustainedPowerW, double loadSeconds, int seed)
    {
        (HeatStep Band, double From, double To)[] bands =
        [
            (HeatStep.Chip, 0, HeatBand.ChipUpToSeconds),
            (HeatStep.Cooler, HeatBand.ChipUpToSeconds, HeatBand.CoolerUpToSeconds),
            (HeatStep.Bulk, HeatBand.CoolerUpToSeconds, double.PositiveInfinity),
        ];
        IReadOnlyList<double[]> draws = fit.Bootstrap(Draws, new Random(seed), between =>
            bands.Select(band => between(band.From, band.To)).ToArray()
        );
        return
        [
            .. bands.Select(
                (band, k) =>
                {
                    double here = fit.Between(band.From, band.To);
                    double noise = 1.96 * BootstrapFactor * Statistics.StandardDeviation([.. draws.Select(draw => draw[k])]);
                    double border = BorderShare * (Near(fit, band.From) + Near(fit, band.To));
                    double unseen = UnseenShare * fit.Unseen(band.From, band.To, loadSeconds);
                    double model = band.Band switch
                    {
                        HeatStep.Chip => ChipModelShare * here,
                        HeatStep.Cooler => CoolerModelShare * here,
                        _ => (BulkModelShare * here) + (ConstantShare * Math.Abs(fit.ConstantC) / sustainedPowerW),
                    };
                    return new HeatBand(
                        band.Band,
                        here * sustainedPowerW,
                        here,
                        Math.Sqrt((noise * noise) + (border * border) + (unseen * unseen) + (model * model))
                    );
                }
            ),
        ];
    }

    /// <summary>How far a fit can be trusted.</summary>
    public static FitQuality Quality(ThermalFit fit)
    {
        double residual = fit.ResidualC.Sum(r => r * r),
            deviation = Statistics.StandardDeviation(fit.Input.RiseC);
        return new FitQuality(
            Math.Sqrt(residual / fit.ResidualC.Length),
            1 - (residual / Math.Max(1e-9, deviation * deviation * fit.ResidualC.Length))
        );
    }

    /// <summary>Resistance of the lags about a border, °C/W.</summary>
    private static double Near(ThermalFit fit, double border) =>
        border is 0 or double.PositiveInfinity ? 0 : fit.Between(border / BorderRatio, border * BorderRatio);
}

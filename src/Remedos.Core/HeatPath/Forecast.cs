using Remedos.Core.Signals;

namespace Remedos.Core.HeatPath;

/// <summary>Where the chip comes to rest if the sustained power and the window's fan speed go on.</summary>
/// <param name="FinalC">That temperature, °C.</param>
/// <param name="NeedsSeconds">How much longer the load would have to last until the chip is within 1.0 °C of it; 0 when it was.</param>
public sealed record Forecast(double FinalC, double NeedsSeconds)
{
    /// <summary>A run has settled when this little is still to come, °C.</summary>
    public const double SettledWithinC = 1.0;

    /// <summary>How much of what is still to come may be wrong, as half of a 95 % interval.</summary>
    public const double DoubtShare = 0.5;

    /// <summary>
    /// What the fit still expects to rise is checked against how the temperature really drifted between the halves of the window, and
    /// lessened as far as that drift stands out of the noise: a lag that is a little too slow promises a rise that is not coming.
    /// </summary>
    /// <param name="fit">The fit of the whole run.</param>
    /// <param name="window">The sustained window, s.</param>
    /// <param name="sustainedC">Its mean, °C.</param>
    /// <param name="watts">Its mean power, W.</param>
    /// <param name="cardWatts">The graphics card's, W.</param>
    public static Forecast Of(ThermalFit fit, (double Start, double End) window, double sustainedC, double watts, double cardWatts)
    {
        Series residual = new(fit.Input.TimeSeconds, fit.ResidualC);
        double middle = (window.Start + window.End) / 2;
        int Row(double seconds) => Math.Min(residual.IndexAt(seconds), fit.ResidualC.Length - 1);
        double Gap(double from, double to, double after) => fit.GapC(Row(from), Row(to), watts, cardWatts, after);
        double gap = Gap(window.Start, window.End, 0),
            expected = Gap(window.Start, middle, 0) - Gap(middle, window.End, 0);
        if (residual.Between(window.Start, middle).IsEmpty || residual.Between(middle, window.End).IsEmpty)
        {
            // A run of days is fitted on stretches longer than half a window: then nothing checks what the fit still expects.
            return new Forecast(sustainedC + gap, 0);
        }

        Estimate early = Statistics.MeanOf(residual.Between(window.Start, middle)),
            late = Statistics.MeanOf(residual.Between(middle, window.End));
        double noise = Math.Sqrt(
            (early.StandardUncertainty * early.StandardUncertainty) + (late.StandardUncertainty * late.StandardUncertainty)
        );
        double trust = expected * expected / Math.Max(1e-12, (expected * expected) + (4 * noise * noise));
        double scale = Math.Abs(expected) < 1e-6 ? 1 : Math.Clamp(1 + (trust * (late.Mean - early.Mean) / expected), 0, 1);

        double needs = 0;
        if (Math.Abs(scale * gap) > SettledWithinC)
        {
            bool Open(double seconds) => Math.Abs(scale * Gap(middle, window.End, ((window.End - middle) / 2) + seconds)) > SettledWithinC;
            double low = 0,
                high = 1;
            while (Open(high) && high < 1e5)
            {
                high *= 2;
            }

            while (high - low > 1)
            {
                double half = (low + high) / 2;
                (low, high) = Open(half) ? (half, high) : (low, half);
            }

            needs = high;
        }

        return new Forecast(sustainedC + (scale * gap), needs);
    }
}

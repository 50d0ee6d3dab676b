namespace Remedos.Core.HeatPath;

/// <summary>What drives a lag: which heat, and whether its resistance follows the fan.</summary>
internal enum LagKind
{
    /// <summary>The processor's power through a constant resistance.</summary>
    Own,

    /// <summary>The processor's power through a resistance that falls as the fan speeds up.</summary>
    OwnThroughFan,

    /// <summary>Processor and graphics card together, through the case air that both heat.</summary>
    Shared,
}

/// <summary>One column of the fit: a first-order lag.</summary>
internal sealed record Lag(LagKind Kind, double TauSeconds);

/// <summary>The grid of time constants, and the exact answer of one lag to a power history.</summary>
internal static class Lags
{
    /// <summary>A grid that starts here has the borders of the bands (3 and 90 s) between its points, s.</summary>
    private const double Shortest = 0.26;

    private const double Longest = 3000,
        LongestShareOfLog = 0.5;

    private const int PerDecade = 8;

    /// <summary>Fins and radiators answer slower than this; what is faster lies before them, s.</summary>
    private const double FanActsAboveSeconds = 10;

    /// <summary>Case air answers slower than this, s.</summary>
    private const double CaseActsAboveSeconds = 60;

    /// <summary>Lags for a log of this length; those much slower could not be told from the constant.</summary>
    public static Lag[] Grid(double logSeconds, bool fanMoves, bool card)
    {
        double longest = Math.Clamp(LongestShareOfLog * logSeconds, 60, Longest);
        List<Lag> lags = [];
        for (int k = 0; Shortest * Math.Pow(10, (double)k / PerDecade) is var tau && tau <= longest; k++)
        {
            lags.Add(new Lag(LagKind.Own, tau));
            if (fanMoves && tau > FanActsAboveSeconds)
            {
                lags.Add(new Lag(LagKind.OwnThroughFan, tau));
            }

            if (card && tau > CaseActsAboveSeconds)
            {
                lags.Add(new Lag(LagKind.Shared, tau));
            }
        }

        return [.. lags];
    }

    /// <summary>
    /// y of τ·dy/dt = P − y/g with P and g constant between rows: exact, whatever the rows' distance. g is the resistance's ratio
    /// to that
    /// at the reference fan speed; the heat capacity behind it does not change, so the time constant goes with it.
    /// </summary>
    /// <param name="time">Rows, s, not decreasing; n.</param>
    /// <param name="power">Mean since the row before, W; n.</param>
    /// <param name="ratio">g of each row; n, or empty for 1.</param>
    /// <param name="tau">Time constant at g = 1, s.</param>
    /// <param name="y">Receives the answer, W; n. It starts in balance with the first half minute's power.</param>
    public static void Filter(ReadOnlySpan<double> time, ReadOnlySpan<double> power, ReadOnlySpan<double> ratio, double tau, Span<double> y)
    {
        double first = 0;
        int early = 0;
        while (early < time.Length && time[early] - time[0] < 30)
        {
            first += power[early++];
        }

        double state = first / Math.Max(1, early) * (ratio.IsEmpty ? 1 : ratio[0]);
        double usualStep = time.Length > 1 ? (time[^1] - time[0]) / (time.Length - 1) : 1,
            usualDecay = Math.Exp(-usualStep / tau);
        y[0] = state;
        for (int i = 1; i < time.Length; i++)
        {
            double step = time[i] - time[i - 1],
                g = 1,
                decay;
            if (ratio.IsEmpty)
            {
                // Loggers jitter by milliseconds: a short series about the usual step is exact to 1e-12 and spares the exponential.
                double off = (usualStep - step) / tau;
                decay = Math.Abs(off) < 1e-3 ? usualDecay * (1 + (off * (1 + (off / 2 * (1 + (off / 3)))))) : Math.Exp(-step / tau);
            }
            else
            {
                g = ratio[i];
                decay = Math.Exp(-step / (tau * g));
            }

            state = (state * decay) + (power[i] * g * (1 - decay));
            y[i] = state;
        }
    }
}

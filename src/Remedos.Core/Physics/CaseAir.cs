namespace Remedos.Core.Physics;

/// <summary>What the air does in a case.</summary>
/// <param name="CasePa">Gauge pressure; above zero, air leaks outward and dust stays out of the gaps.</param>
/// <param name="ExchangeM3PerH">Air that comes in, and goes out again.</param>
/// <param name="FanInflowsM3PerH">Of each fan, inward; negative blows out.</param>
/// <param name="OpeningInflowsM3PerH">Of each opening, inward.</param>
public sealed record AirState(
    double CasePa,
    double ExchangeM3PerH,
    IReadOnlyList<double> FanInflowsM3PerH,
    IReadOnlyList<double> OpeningInflowsM3PerH
);

/// <summary>Balances the air of a case (docs/science.md, “Air through the case”).</summary>
public static class CaseAir
{
    /// <summary>The hole that a side panel leaves, Pa/(m³/h)².</summary>
    public const double PanelK = 0.00002;

    private const double TolerancePa = 1e-10,
        NearEnoughM3PerH = 1e-6,
        FirstStepPa = 0.05;

    /// <summary>
    /// Finds the gauge pressure at which as much air comes in as goes out: the flows all fall with it, so the root is one. It is
    /// searched by secants, which stay within what is known to hold it; whenever they lag, that is halved.
    /// </summary>
    /// <param name="fans">The case's fans.</param>
    /// <param name="speedShares">Their speeds, 0 … 1; as many as fans.</param>
    /// <param name="openings">Openings without a fan; at least one.</param>
    /// <param name="nearPa">Where to begin: the pressure at speeds much like these; it changes the way there, not the answer.</param>
    public static AirState Solve(
        IReadOnlyList<CaseFan> fans,
        ReadOnlySpan<double> speedShares,
        IReadOnlyList<Opening> openings,
        double nearPa = 0
    )
    {
        double most = 1;
        for (int i = 0; i < fans.Count; i++)
        {
            most += fans[i].StallPa;
        }

        (double low, double high) = (-most, most);
        double pressure = Math.Clamp(nearPa, low, high),
            before = double.NaN,
            atBefore = double.NaN;
        for (int round = 0; round < 200 && high - low > TolerancePa; round++)
        {
            double sum = Sum(pressure, fans, speedShares, openings);
            if (Math.Abs(sum) < NearEnoughM3PerH)
            {
                break;
            }

            (low, high) = sum > 0 ? (pressure, high) : (low, pressure);
            double next =
                round == 0 ? pressure + (sum > 0 ? FirstStepPa : -FirstStepPa) : pressure - (sum * (pressure - before) / (sum - atBefore));
            (before, atBefore) = (pressure, sum);
            pressure = next > low && next < high && round % 4 != 3 ? next : (low + high) / 2;
        }

        double[] byFan = new double[fans.Count],
            byOpening = new double[openings.Count];
        double inflow = 0;
        for (int i = 0; i < byFan.Length; i++)
        {
            byFan[i] = fans[i].InflowM3PerH(pressure, speedShares[i]);
            inflow += Math.Max(0, byFan[i]);
        }

        for (int i = 0; i < byOpening.Length; i++)
        {
            byOpening[i] = openings[i].InflowM3PerH(pressure);
            inflow += Math.Max(0, byOpening[i]);
        }

        return new AirState(pressure, inflow, byFan, byOpening);
    }

    /// <summary>Conductance of the exchanged air from the case to the room, W/K: ρ·c_p·Q over the mixing factor.</summary>
    /// <param name="exchangeM3PerH">m³/h.</param>
    /// <param name="mixing">By how much the inside is warmer than perfectly mixed air.</param>
    public static double ConductanceWPerK(double exchangeM3PerH, double mixing) =>
        PhysicalConstants.AirJPerM3K * exchangeM3PerH / 3600 / mixing;

    /// <summary>Levels of several sources together, dB(A): 10·log₁₀ Σ10^(L/10).</summary>
    public static double SumDba(IEnumerable<double> levels) => 10 * Math.Log10(levels.Sum(level => Math.Pow(10, level / 10)));

    /// <summary>A fan's level at a share of full speed, by the fan laws; 0 when it stands.</summary>
    public static double FanDba(double atMaxDba, double speedShare) => speedShare < 0.05 ? 0 : atMaxDba + FanLaw.SpeedChangeDba(speedShare);

    private static double Sum(
        double pressure,
        IReadOnlyList<CaseFan> fans,
        ReadOnlySpan<double> speedShares,
        IReadOnlyList<Opening> openings
    )
    {
        double sum = 0;
        for (int i = 0; i < fans.Count; i++)
        {
            sum += fans[i].InflowM3PerH(pressure, speedShares[i]);
        }

        for (int i = 0; i < openings.Count; i++)
        {
            sum += openings[i].InflowM3PerH(pressure);
        }

        return sum;
    }
}

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

/// <summary>Gauge pressure of a case, and the air that comes in and goes out again.</summary>
internal readonly record struct AirBalance(double CasePa, double ExchangeM3PerH);

/// <summary>Balances the air of a case (docs/science.md, “Air through the case”).</summary>
public static class CaseAir
{
    private const double TolerancePa = 1e-10,
        NearEnoughM3PerH = 1e-6,
        LeastPa = 1e-9;

    /// <summary>A step that leaves more than this of what was out of balance lags.</summary>
    private const double Lags = 0.7;

    private const int MostRounds = 200;

    /// <summary>Finds the gauge pressure at which as much air comes in as goes out, and what flows there.</summary>
    /// <param name="fans">The case's fans.</param>
    /// <param name="speedShares">Their speeds, 0 … 1; as many as fans.</param>
    /// <param name="openings">Openings without a fan; at least one.</param>
    public static AirState Solve(IReadOnlyList<CaseFan> fans, ReadOnlySpan<double> speedShares, IReadOnlyList<Opening> openings)
    {
        int ways = fans.Count + openings.Count;
        Span<double> pushes = stackalloc double[ways],
            conductances = stackalloc double[ways];
        for (int i = 0; i < fans.Count; i++)
        {
            (pushes[i], conductances[i]) = (fans[i].PushPa(speedShares[i]), 1 / fans[i].K);
        }

        for (int i = 0; i < openings.Count; i++)
        {
            (pushes[fans.Count + i], conductances[fans.Count + i]) = (0, 1 / openings[i].K);
        }

        AirBalance balance = Balance(pushes, conductances);
        double[] byFan = new double[fans.Count],
            byOpening = new double[openings.Count];
        for (int i = 0; i < ways; i++)
        {
            double inflow = InflowM3PerH(pushes[i] - balance.CasePa, conductances[i]);
            if (i < byFan.Length)
            {
                byFan[i] = inflow;
            }
            else
            {
                byOpening[i - byFan.Length] = inflow;
            }
        }

        return new AirState(balance.CasePa, balance.ExchangeM3PerH, byFan, byOpening);
    }

    /// <summary>
    /// The balance alone. The flows all fall with the case's pressure, so the root is one: it is searched by tangents, which stay within
    /// what is known to hold it; whenever they lag, that is halved.
    /// </summary>
    /// <param name="pushes">Of every way through the case, inward, Pa; 0 of an opening.</param>
    /// <param name="conductances">Likewise, 1/k: the square of its flow at 1 Pa, (m³/h)²/Pa.</param>
    /// <param name="nearPa">Where to begin: the pressure at speeds much like these; it changes the way there, not the answer.</param>
    internal static AirBalance Balance(ReadOnlySpan<double> pushes, ReadOnlySpan<double> conductances, double nearPa = 0)
    {
        // Between its strongest pushes either way.
        double low = 0,
            high = 0;
        for (int i = 0; i < pushes.Length; i++)
        {
            (low, high) = (Math.Min(low, pushes[i]), Math.Max(high, pushes[i]));
        }

        double pressure = Math.Clamp(nearPa, low, high),
            before = double.PositiveInfinity;
        for (int round = 0; ; round++)
        {
            double sum = 0,
                inflow = 0,
                falls = 0;
            for (int i = 0; i < pushes.Length; i++)
            {
                double left = pushes[i] - pressure,
                    flow = InflowM3PerH(left, conductances[i]);
                sum += flow;
                inflow += Math.Max(0, flow);
                falls += Math.Abs(flow) / (2 * Math.Max(LeastPa, Math.Abs(left)));
            }

            if (Math.Abs(sum) < NearEnoughM3PerH || high - low < TolerancePa || round == MostRounds)
            {
                return new AirBalance(pressure, inflow);
            }

            (low, high) = sum > 0 ? (pressure, high) : (low, pressure);
            double next = pressure + (sum / falls);
            pressure = next > low && next < high && Math.Abs(sum) < Lags * before ? next : (low + high) / 2;
            before = Math.Abs(sum);
        }
    }

    /// <summary>Conductance of the exchanged air from the case to the room, W/K: ρ·c_p·Q over the mixing factor.</summary>
    /// <param name="exchangeM3PerH">m³/h.</param>
    /// <param name="mixing">By how much the inside is warmer than perfectly mixed air.</param>
    public static double ConductanceWPerK(double exchangeM3PerH, double mixing) =>
        PhysicalConstants.AirJPerM3K * exchangeM3PerH / 3600 / mixing;

    private static double InflowM3PerH(double leftPa, double conductance) =>
        Math.CopySign(Math.Sqrt(Math.Abs(leftPa) * conductance), leftPa);
}

namespace Remedos.Core.Physics;

/// <summary>A fan and what it blows through. Pressures Pa, flows m³/h.</summary>
/// <param name="Place">front, rear, top, bottom, side or supply.</param>
/// <param name="Inward">Whether it draws room air in.</param>
/// <param name="StallPa">Pressure at full speed without flow.</param>
/// <param name="FreeM3PerH">Flow at full speed without resistance.</param>
/// <param name="MaxRpm">Full speed.</param>
/// <param name="NoiseAtMaxDba">At full speed, dB(A) at 1 m.</param>
/// <param name="PathK">Grille, filter and radiator in its way: Δp = k·Q², Pa/(m³/h)².</param>
public sealed record CaseFan(
    string Place,
    bool Inward,
    double StallPa,
    double FreeM3PerH,
    double MaxRpm,
    double NoiseAtMaxDba,
    double PathK
)
{
    /// <summary>
    /// Flow inward, m³/h, against a case that stands at a gauge pressure. The fan's curve p = p₀n²(1 − (Q/(Q₀n))²) and its path's
    /// k·Q² are
    /// both
    /// parabolas, so the balance is one; a fan that is overcome, or stands, lets air through the other way.
    /// </summary>
    /// <param name="casePa">Gauge pressure of the case.</param>
    /// <param name="speedShare">0 … 1 of full speed.</param>
    public double InflowM3PerH(double casePa, double speedShare)
    {
        double push = (StallPa * speedShare * speedShare * (Inward ? 1 : -1)) - casePa;
        double k = PathK + (StallPa / (FreeM3PerH * FreeM3PerH));
        return Math.Sign(push) * Math.Sqrt(Math.Abs(push) / k);
    }
}

/// <summary>An opening without a fan: leaks as √Δp.</summary>
/// <param name="Place">front, rear, top, bottom, side or slots.</param>
/// <param name="K">Δp = k·Q², Pa/(m³/h)².</param>
public sealed record Opening(string Place, double K)
{
    /// <summary>What flows inward at a gauge pressure of the case, m³/h.</summary>
    public double InflowM3PerH(double casePa) => -Math.Sign(casePa) * Math.Sqrt(Math.Abs(casePa) / K);
}

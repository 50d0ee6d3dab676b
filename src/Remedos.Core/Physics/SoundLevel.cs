namespace Remedos.Core.Physics;

/// <summary>Levels of fans, dB(A) at 1 m.</summary>
public static class SoundLevel
{
    /// <summary>Levels of several sources together, dB(A): 10·log₁₀ Σ10^(L/10).</summary>
    public static double SumDba(IEnumerable<double> levels) => 10 * Math.Log10(levels.Sum(level => Math.Pow(10, level / 10)));

    /// <summary>A fan's level at a share of full speed, by the fan laws; 0 when it stands.</summary>
    public static double FanDba(double atMaxDba, double speedShare) => speedShare < 0.05 ? 0 : atMaxDba + SpeedChangeDba(speedShare);

    /// <summary>By how much a fan is louder at a multiple of its speed, dB.</summary>
    public static double SpeedChangeDba(double ratio) => PhysicalConstants.FanSpeedDb * Math.Log10(ratio);

    /// <summary>The multiple of its speed at which a fan is louder by so much.</summary>
    public static double SpeedRatioFor(double dba) => Math.Pow(10, dba / PhysicalConstants.FanSpeedDb);
}

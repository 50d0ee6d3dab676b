using Remedos.Core.Physics;

namespace Remedos.Core.Comparison;

/// <summary>
/// What is left of a change when both sides are equally loud: cooler and louder is no gain that a fan curve could not have given.
/// </summary>
internal static class Noise
{
    /// <summary>Levels nearer than this are equal to an ear and to a meter, dB(A).</summary>
    private const double EqualDba = 0.5;

    /// <summary>Fans are taken no further than this from the speed at which they were seen.</summary>
    private const double FurthestRatio = 4;

    /// <summary>Null where no side was measured.</summary>
    public static NoiseChange? Between(Reading[] then, Reading[] now, AlignedSetups aligned, double changeC)
    {
        double? before = Level(then),
            after = Level(now);
        if (before is null && after is null)
        {
            return null;
        }

        double? equal = null,
            quiet = null;
        if (before is { } loud && after is { } louder)
        {
            double ratio = SoundLevel.SpeedRatioFor(loud - louder);
            if (aligned.RpmOf(1) is { } rpm && ratio is > 1 / FurthestRatio and < FurthestRatio)
            {
                equal = changeC + (aligned.MoreAt(1, rpm * ratio) * aligned.ReferencePowerW);
            }
            else if (Math.Abs(loud - louder) < EqualDba)
            {
                equal = changeC + ((aligned.FanPartOf(1) ?? 0) * aligned.ReferencePowerW);
            }

            quiet = AtEqualTemperature(louder, aligned, changeC);
        }

        return new NoiseChange(before, after, equal, quiet);
    }

    /// <summary>The level at which the after side is as warm as the before side was.</summary>
    private static double? AtEqualTemperature(double afterDba, AlignedSetups aligned, double changeC)
    {
        if (aligned.RpmOf(1) is not { } rpm)
        {
            return null;
        }

        double Left(double ratio) => changeC + (aligned.MoreAt(1, rpm * ratio)!.Value * aligned.ReferencePowerW);
        double low = 1 / FurthestRatio,
            high = FurthestRatio;
        if (Left(low) < 0 || Left(high) > 0)
        {
            return null;
        }

        for (int step = 0; step < 60; step++)
        {
            double middle = Math.Sqrt(low * high);
            (low, high) = Left(middle) > 0 ? (middle, high) : (low, middle);
        }

        return afterDba + SoundLevel.SpeedChangeDba(high);
    }

    /// <summary>Mean of the measured runs, as energies, dB(A); null when none was.</summary>
    private static double? Level(Reading[] runs)
    {
        double[] levels = [.. runs.Select(run => run.SoundDba).OfType<double>()];
        return levels.Length == 0 ? null : 10 * Math.Log10(levels.Average(level => Math.Pow(10, level / 10)));
    }
}

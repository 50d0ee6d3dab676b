namespace Remedos.Data.Samples;

/// <summary>One level of one channel.</summary>
public sealed record PyramidLevel(float[] Means, float[] Lows, float[] Highs);

/// <summary>Builds the min/max/mean pyramid of a channel. Missing samples (NaN) take no part.</summary>
public static class Pyramid
{
    public const int GroupSize = 16;

    /// <summary>A level of at most this many points is the top.</summary>
    private const int TopPoints = 1000;

    /// <summary>How many levels a run of so many rows has above its samples.</summary>
    public static int Levels(int rows)
    {
        int levels = 0;
        for (int points = rows; points > TopPoints; points = (points + GroupSize - 1) / GroupSize)
        {
            levels++;
        }

        return levels;
    }

    /// <summary>Times of the groups of the next level: each group's first.</summary>
    public static double[] Times(double[] seconds) =>
        [.. Enumerable.Range(0, (seconds.Length + GroupSize - 1) / GroupSize).Select(group => seconds[group * GroupSize])];

    public static PyramidLevel Next(PyramidLevel below)
    {
        int groups = (below.Means.Length + GroupSize - 1) / GroupSize;
        PyramidLevel level = new(new float[groups], new float[groups], new float[groups]);
        for (int group = 0; group < groups; group++)
        {
            double sum = 0;
            int count = 0;
            float low = float.PositiveInfinity,
                high = float.NegativeInfinity;
            for (int i = group * GroupSize; i < Math.Min(below.Means.Length, (group + 1) * GroupSize); i++)
            {
                if (!float.IsNaN(below.Means[i]))
                {
                    sum += below.Means[i];
                    count++;
                    low = Math.Min(low, below.Lows[i]);
                    high = Math.Max(high, below.Highs[i]);
                }
            }

            (level.Means[group], level.Lows[group], level.Highs[group]) =
                count == 0 ? (float.NaN, float.NaN, float.NaN) : ((float)(sum / count), low, high);
        }

        return level;
    }
}

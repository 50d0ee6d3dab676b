namespace Remedos.Core.Logs;

/// <summary>Takes impossible samples out of a channel (they become NaN) and counts them.</summary>
internal static class Rejection
{
    /// <summary>
    /// A die can move some 20 °C between two samples a second apart; a jump there and back of more than this is a misread.
    /// </summary>
    private const float SpikeC = 35;

    private const double StuckSeconds = 120;

    private const int FewestStuck = 30;

    private const float SmallestMoveW = 25,
        MoveShare = 0.5f;

    /// <summary>The least and most that a sensor of this unit can say.</summary>
    public static (float Low, float High) Possible(string unit) =>
        unit switch
        {
            "C" => (-40f, 150f),
            "W" => (0f, 5000f),
            "MHz" => (0f, 20000f),
            "%" => (0f, 101f),
            "rpm" => (0f, 30000f),
            "dBA" => (0f, 160f),
            _ => (float.MinValue, float.MaxValue),
        };

    public static int Apply(Span<float> values, ChannelRole role, string unit)
    {
        (float low, float high) = Possible(unit);
        int rejected = 0;
        foreach (ref float value in values)
        {
            if (value < low || value > high)
            {
                value = float.NaN;
                rejected++;
            }
        }

        if (role.IsTemperature())
        {
            for (int i = 1; i + 1 < values.Length; i++)
            {
                float before = values[i - 1],
                    after = values[i + 1];
                if (Math.Abs(before - after) < SpikeC / 4 && Math.Abs(values[i] - before) > SpikeC && Math.Abs(values[i] - after) > SpikeC)
                {
                    values[i] = float.NaN;
                    rejected++;
                }
            }
        }

        return rejected;
    }

    /// <summary>
    /// Takes out readings of a chip that stand still for minutes while the power moves: the sensor hung, since a chip answers a step of
    /// power
    /// within a second. The first reading of such a stretch stays.
    /// </summary>
    /// <returns>How many were taken out.</returns>
    public static int ApplyStuck(Span<float> values, ReadOnlySpan<float> power, ReadOnlySpan<double> time)
    {
        (float lowest, float highest) = Range(power);
        float moves = Math.Max(SmallestMoveW, MoveShare * (highest - lowest));
        int rejected = 0;
        for (int first = 0; first < values.Length; )
        {
            int behind = first + 1;
            while (behind < values.Length && (values[behind] == values[first] || float.IsNaN(values[behind])))
            {
                behind++;
            }

            if (
                !float.IsNaN(values[first])
                && behind - first >= FewestStuck
                && time[behind - 1] - time[first] >= StuckSeconds
                && Range(power[first..behind]) is var (low, high)
                && high - low > moves
            )
            {
                foreach (ref float value in values[(first + 1)..behind])
                {
                    rejected += float.IsNaN(value) ? 0 : 1;
                    value = float.NaN;
                }
            }

            first = behind;
        }

        return rejected;
    }

    private static (float Low, float High) Range(ReadOnlySpan<float> values)
    {
        (float low, float high) = (float.PositiveInfinity, float.NegativeInfinity);
        foreach (float value in values)
        {
            (low, high) = float.IsNaN(value) ? (low, high) : (Math.Min(low, value), Math.Max(high, value));
        }

        return (low, high);
    }
}

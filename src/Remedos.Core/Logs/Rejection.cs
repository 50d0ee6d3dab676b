namespace Remedos.Core.Logs;

/// <summary>Takes impossible samples out of a channel (they become NaN) and counts them.</summary>
internal static class Rejection
{
    /// <summary>A die can move some 20 °C between two samples a second apart; a jump there and back of more than this is a misread.</summary>
    private const float SpikeC = 35;

    public static int Apply(Span<float> values, ChannelRole role, string unit)
    {
        (float low, float high) = unit switch
        {
            "C" => (-40f, 150f),
            "W" => (0f, 5000f),
            "MHz" => (0f, 20000f),
            "%" => (0f, 101f),
            "rpm" => (0f, 30000f),
            _ => (float.MinValue, float.MaxValue),
        };
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
                float before = values[i - 1], after = values[i + 1];
                if (Math.Abs(before - after) < SpikeC / 4 && Math.Abs(values[i] - before) > SpikeC && Math.Abs(values[i] - after) > SpikeC)
                {
                    values[i] = float.NaN;
                    rejected++;
                }
            }
        }

        return rejected;
    }
}

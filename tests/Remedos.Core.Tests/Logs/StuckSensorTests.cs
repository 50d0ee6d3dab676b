using System.Globalization;
using System.Text;
using Remedos.Core.Logs;

namespace Remedos.Core.Tests.Logs;

/// <summary>A sensor that hangs is taken out and counted; a chip that rests is not.</summary>
public sealed class StuckSensorTests
{
    [Fact]
    public void A_reading_that_stands_still_while_the_power_moves_is_taken_out()
    {
        // Hangs from 300 to 600 s, over the start of the load at 400 s.
        Channel chip = Chip(i => i is > 300 and <= 600 ? 35 : Warm(i));
        Assert.Equal(300, chip.Rejected);
        Assert.Equal(900 - 300, chip.Samples);
        Assert.True(float.IsNaN(chip.Values[450]));
        Assert.Equal(Warm(700), chip.Values[700]);
    }

    [Fact]
    public void Standing_still_at_rest_for_a_short_while_or_at_steady_load_is_no_fault()
    {
        Assert.Equal(0, Chip(i => i < 395 ? 35 : Warm(i)).Rejected);
        Assert.Equal(0, Chip(i => i is > 350 and < 440 ? 35 : Warm(i)).Rejected);
        Assert.Equal(0, Chip(i => i is > 500 ? 80 : Warm(i)).Rejected);
    }

    private static float Warm(int i) => i <= 400 ? 35 + (i % 2) : 80 + (i % 3);

    private static Channel Chip(Func<int, float> celsius)
    {
        StringBuilder text = new("Time [s],CPU temperature [°C],CPU power [W]\n");
        for (int i = 0; i < 900; i++)
        {
            text.Append(CultureInfo.InvariantCulture, $"{i},{celsius(i)},{(i <= 400 ? 15 : 120)}\n");
        }

        return LogReader.Read(new MemoryStream(Encoding.UTF8.GetBytes(text.ToString()))).Log!.Channels[1];
    }
}

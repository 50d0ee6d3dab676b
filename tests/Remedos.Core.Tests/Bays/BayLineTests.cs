using CsCheck;
using Remedos.Core.Bays;
using Remedos.Core.Logs;

namespace Remedos.Core.Tests.Bays;

/// <summary>Lines of the bay protocol, and the log that they grow into.</summary>
public sealed class BayLineTests
{
    [Fact]
    public void A_reading_has_one_value_a_role_or_one_a_core()
    {
        BayReading reading = BayLine
            .Parse("""{"seq":7,"t":3.5,"cpu-power":61.5,"core-temperature":[51,null,58.5],"throttle-flag":false,"pump-speed":null}""")
            .Reading!;
        Assert.Equal(
            (7, 3.5, 61.5, 0.0),
            (reading.Sequence, reading.Seconds, reading.Of(ChannelRole.CpuPower), reading.Of(ChannelRole.ThrottleFlag))
        );
        Assert.Equal(
            [0, 2],
            reading.Values.Keys.Where(channel => channel.Role == ChannelRole.CoreTemperature).Select(channel => channel.Index)
        );
        Assert.Equal(58.5, reading.ChipC);
        Assert.Null(reading.Of(ChannelRole.PumpSpeed));
    }

    [Theory]
    [InlineData("""{"seq":1,"t":0,"cpu-temperature":9999}""", "cpu-temperature of 9999 cannot be (-40 to 150 can)")]
    [InlineData("""{"seq":1,"t":0,"core-temperature":[40,-300]}""", "core-temperature 2 of -300 cannot be")]
    [InlineData("""{"seq":1,"t":0,"cpu-power":-5}""", "cpu-power of -5 cannot be (0 to 5000 can)")]
    [InlineData("""{"seq":1,"t":0,"sound-level":400}""", "sound-level of 400 cannot be (0 to 160 can)")]
    public void A_value_that_cannot_be_is_left_out_and_told(string line, string words)
    {
        BayLine parsed = BayLine.Parse(line);
        Assert.Null(parsed.Problem);
        Assert.Contains(words, Assert.Single(parsed.LeftOut), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("""{"hello":{"obeys":["load","magic"]}}""", "“hello.obeys” knows load, fans, cap, pump, panel, not “magic”.")]
    [InlineData("""{"hello":{"missing":["teapot"]}}""", "“hello.missing” holds “teapot”, which is no role.")]
    [InlineData("""{"hello":3}""", "“hello” is an object")]
    [InlineData("""{"note":3}""", "“note” is no text.")]
    [InlineData("""{"seq":1e300,"t":0}""", "“seq” is 1E+300, and must not be.")]
    [InlineData("""{"seq":1,"t":-1}""", "“t” is -1, and must not be.")]
    [InlineData("""{"seq":1,"t":0,"core-temperature":["hot"]}""", "“core-temperature” holds what is no number.")]
    public void What_is_no_line_is_told_in_words(string line, string words) =>
        Assert.StartsWith(words, BayLine.Parse(line).Problem, StringComparison.Ordinal);

    [Fact]
    public void A_hello_tells_what_hands_have_to_do()
    {
        BayHello hello = BayLine
            .Parse("""{"hello":{"machine":"a bench machine","obeys":["load","fans"],"missing":["cpu-power"]}}""")
            .Hello!;
        Assert.True(hello.CanDo(BayHello.Fans));
        Assert.False(hello.CanDo(BayHello.Panel) || hello.Simulated);
        Assert.Equal(["cpu-power"], hello.Missing);
        Assert.Equal("it fell silent", BayLine.Parse("""{"note":"it fell silent"}""").Note);
    }

    /// <summary>Any text at all: an answer or a sentence, never an exception.</summary>
    [Fact]
    public void Whatever_comes_gets_an_answer() =>
        Gen.OneOf(Gen.String, Gen.String[Gen.Char["{}[]\":,seqt0123456789.-eE null"], 0, 60])
            .Sample(
                text =>
                {
                    BayLine line = BayLine.Parse(text);
                    Assert.Equal(1, new object?[] { line.Reading, line.Hello, line.Note, line.Problem }.Count(part => part is not null));
                },
                iter: 20_000
            );

    /// <summary>Read one by one or at once, thinned or not: the same means; gaps stay gaps.</summary>
    [Fact]
    public void A_log_that_grows_is_the_log_of_all_its_readings()
    {
        BayReading Reading(int i) =>
            new(
                i + 1,
                100 + (i * 0.1),
                new Dictionary<BayChannel, double>
                {
                    [new(ChannelRole.CpuTemperature)] = 40 + (i % 7),
                    [new(i < 50 ? ChannelRole.CpuPower : ChannelRole.CpuClock)] = i,
                }
            );
        BayLog log = BayLog.Of(Enumerable.Range(0, 200).Select(Reading)),
            seconds = BayLog.Of(Enumerable.Range(0, 200).Select(Reading), everySeconds: 1);
        Log every = log.ToLog(),
            thin = seconds.ToLog();
        Assert.Equal((200, 20, 19.9), (every.Samples, thin.Samples, Math.Round(every.DurationSeconds, 6)));
        Channel power = every.Channels.Single(channel => channel.Role == ChannelRole.CpuPower),
            clock = every.Channels.Single(channel => channel.Role == ChannelRole.CpuClock);
        Assert.Equal((50, 150), (power.Samples, clock.Samples));
        Assert.True(float.IsNaN(power.Values[50]) && float.IsNaN(clock.Values[49]));
        Assert.Equal(every.Channels[1].Values.Take(10).Average(), thin.Channels[1].Values[0], 1e-4);
        foreach (BayLog one in new[] { log, seconds })
        {
            Assert.Equal(15, one.SilentFor(ChannelRole.CpuPower)!.Value, 1e-6);
            Assert.Equal((199, 19.9), (one.Latest(ChannelRole.CpuClock), Math.Round(one.DurationSeconds, 6)));
            Assert.Null(one.SilentFor(ChannelRole.PumpSpeed));
        }

        Assert.Equal(Enumerable.Range(100, 11).Average(i => 40.0 + (i % 7)), log.Chip(10, 11)!.Value.Mean, 1e-5);
    }

    [Fact]
    public void What_hands_read_stands_in_the_log_at_its_moment()
    {
        BayLog log = BayLog.Of(
            Enumerable
                .Range(0, 60)
                .Select(i => new BayReading(i + 1, i, new Dictionary<BayChannel, double> { [new(ChannelRole.CpuTemperature)] = 50 }))
        );
        Log with = log.ToLog(
            more:
            [
                new HandReading(20.4, new Dictionary<ChannelRole, double> { [ChannelRole.SoundLevel] = 38.5 }),
                new HandReading(99, new Dictionary<ChannelRole, double> { [ChannelRole.SoundLevel] = 40 }),
            ]
        );
        Channel sound = with.Channels.Single(channel => channel.Role == ChannelRole.SoundLevel);
        Assert.Equal((2, 38.5f, 40f), (sound.Samples, sound.Values[21], sound.Values[59]));
    }
}

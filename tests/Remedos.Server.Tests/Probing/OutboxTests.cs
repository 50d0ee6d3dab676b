using CsCheck;
using Remedos.Bench.Sending;
using Remedos.Core.Bays;
using Remedos.Core.Logs;

namespace Remedos.Server.Tests.Probing;

/// <summary>No reading is lost between the sensors and the server, whatever cuts the probe off.</summary>
public sealed class OutboxTests : IDisposable
{
    private readonly DirectoryInfo _folder = Directory.CreateTempSubdirectory("remedos-outbox-");

    public void Dispose() => _folder.Delete(recursive: true);

    private static BayReading Reading(long sequence) =>
        new(
            sequence,
            sequence / 10.0,
            new Dictionary<BayChannel, double>
            {
                [new(ChannelRole.CpuTemperature)] = 40 + (sequence % 5),
                [new(ChannelRole.CoreTemperature, 1)] = 39,
            }
        );

    private Outbox Open() => new(_folder.FullName, Guid.NewGuid().ToString("N"));

    private static IEnumerable<long> Sequences(Outbox outbox) =>
        outbox
            .Oldest(int.MaxValue, int.MaxValue)
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Select(line => BayLine.Parse(line).Reading!.Sequence);

    [Fact]
    public void A_probe_that_was_cut_off_goes_on_in_the_same_recording()
    {
        string name;
        using (Outbox first = Open())
        {
            name = first.Stream;
            for (long sequence = 1; sequence <= 1500; sequence++)
            {
                first.Add(Reading(sequence));
            }

            Assert.True(first.Acknowledge(700));
        }

        File.AppendAllText(
            _folder.EnumerateFiles("*.ndjson").OrderBy(file => file.Name, StringComparer.Ordinal).Last().FullName,
            "{\"seq\":1501,\"t\":15"
        );
        using Outbox second = Open();
        Assert.Equal((name, 1500L, 150.0), (second.Stream, second.LastSequence, second.LastSeconds));
        Assert.Equal(Enumerable.Range(701, 800).Select(i => (long)i), Sequences(second));
        second.Add(Reading(1501));
        Assert.True(second.Acknowledge(1501));
        Assert.Equal(0, second.Waiting);
        Assert.Single(_folder.EnumerateFiles("*.ndjson"));
    }

    [Fact]
    public void What_the_server_lacks_and_nobody_keeps_begins_a_new_recording()
    {
        using Outbox outbox = Open();
        for (long sequence = 1; sequence <= 10; sequence++)
        {
            outbox.Add(Reading(sequence));
        }

        Assert.True(outbox.Acknowledge(10));
        Assert.False(outbox.Acknowledge(0)); // somebody else has sent meanwhile
        outbox.Restart("another");
        Assert.Equal(("another", 0L, 0), (outbox.Stream, outbox.LastSequence, outbox.Waiting));
        using Outbox reopened = Open();
        Assert.Equal("another", reopened.Stream);
    }

    /// <summary>
    /// Readings put in, acknowledged and cut off in any order: what waits is always all that is not acknowledged, in order.
    /// </summary>
    [Fact]
    public void Nothing_is_lost_whatever_happens_in_between() =>
        Gen.Int[0, 2]
            .Array[1, 60]
            .Sample(
                steps =>
                {
                    DirectoryInfo folder = Directory.CreateTempSubdirectory("remedos-outbox-");
                    (long last, long acknowledged) = (0, 0);
                    Outbox outbox = new(folder.FullName, "one");
                    foreach (int step in steps)
                    {
                        switch (step)
                        {
                            case 0:
                                for (int i = 0; i < 130; i++)
                                {
                                    outbox.Add(Reading(++last));
                                }

                                break;
                            case 1:
                                acknowledged += (last - acknowledged) / 2;
                                Assert.True(outbox.Acknowledge(acknowledged));
                                break;
                            default:
                                outbox.Dispose();
                                outbox = new Outbox(folder.FullName, "two");
                                break;
                        }

                        Assert.Equal(last, outbox.LastSequence);
                        long[] waiting = [.. Sequences(outbox)];
                        Assert.True(waiting.Length >= last - acknowledged);
                        Assert.Equal(Enumerable.Range(0, waiting.Length).Select(i => last - waiting.Length + 1 + i), waiting);
                    }

                    outbox.Dispose();
                    folder.Delete(recursive: true);
                },
                iter: 100
            );

    /// <summary>
    /// A machine of 192 threads fills a batch with few readings: it is cut by bytes, and one reading goes whatever its size.
    /// </summary>
    [Fact]
    public void A_batch_is_cut_by_bytes_as_well()
    {
        using Outbox outbox = new(null, "s");
        for (long sequence = 1; sequence <= 500; sequence++)
        {
            outbox.Add(
                new BayReading(
                    sequence,
                    sequence,
                    Enumerable.Range(0, 400).ToDictionary(i => new BayChannel(ChannelRole.CoreClock, i), i => 4321.5)
                )
            );
        }

        string lines = outbox.Oldest(2000, 100_000);
        Assert.InRange(lines.Length, 90_000, 100_000);
        Assert.Equal(lines.Split('\n').Length, lines.Split('\n').Select(line => BayLine.Parse(line).Reading!.Sequence).Distinct().Count());
        Assert.Single(outbox.Oldest(2000, 10).Split('\n'));
    }

    [Fact]
    public void Nobody_else_may_have_put_anything_into_its_folder()
    {
        string victim = Path.Combine(_folder.FullName, "victim"),
            folder = Path.Combine(_folder.FullName, "own");
        File.WriteAllText(victim, "untouched");
        Directory.CreateDirectory(folder);
        File.CreateSymbolicLink(Path.Combine(folder, "acknowledged"), victim);
        Assert.Contains("is a link", Assert.Throws<IOException>(() => new Outbox(folder, "s")).Message, StringComparison.Ordinal);
        Directory.CreateSymbolicLink(Path.Combine(_folder.FullName, "linked"), folder);
        Assert.Throws<IOException>(() => new Outbox(Path.Combine(_folder.FullName, "linked"), "s"));
        Assert.Equal("untouched", File.ReadAllText(victim));
        string made = Path.Combine(_folder.FullName, "made");
        using Outbox outbox = new(made, "s");
        Assert.Equal(UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute, File.GetUnixFileMode(made));
    }

    [Fact]
    public void A_line_says_what_the_reading_does()
    {
        BayReading reading = new(
            3,
            2.25,
            new Dictionary<BayChannel, double>
            {
                [new(ChannelRole.CpuPower)] = 61.25,
                [new(ChannelRole.CoreTemperature, 0)] = 50,
                [new(ChannelRole.CoreTemperature, 2)] = 52,
            }
        );
        Assert.Equal("""{"seq":3,"t":2.25,"cpu-power":61.25,"core-temperature":[50,null,52]}""", Wire.Line(reading));
        BayReading back = BayLine.Parse(Wire.Line(reading)).Reading!;
        Assert.Equal(reading.Values.OrderBy(pair => pair.Key.Name), back.Values.OrderBy(pair => pair.Key.Name));
        Assert.Equal("said “no”", BayLine.Parse(Wire.Note("said “no”\n")).Note);
        BayHello hello = BayLine.Parse(Wire.Line(new BayHello("m", [BayHello.Load], ["cpu-power"]))).Hello!;
        Assert.Equal(("m", "load", "cpu-power"), (hello.Machine, hello.Obeys.Single(), hello.Missing.Single()));
    }
}

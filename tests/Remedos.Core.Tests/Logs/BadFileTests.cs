using System.Text;
using System.Text.Json;
using CsCheck;
using Remedos.Core.Logs;

namespace Remedos.Core.Tests.Logs;

/// <summary>Files that are no logs, or broken ones: always an answer or a located sentence, never an exception.</summary>
public sealed class BadFileTests
{
    [Theory]
    [InlineData("empty.csv")]
    [InlineData("header-only.csv")]
    [InlineData("binary.csv")]
    [InlineData("no-time-no-temperature.csv")]
    [InlineData("not-numeric.csv")]
    [InlineData("one-column.csv")]
    [InlineData("time-stands-still.csv")]
    public void A_broken_file_is_told_by_its_category(string name)
    {
        JsonElement expected = Example.Truth("bad", "expected.json").GetProperty(name);
        LogReading reading = Example.Read(Path.Combine(Example.Folder("bad"), name));
        Assert.Null(reading.Log);
        Assert.Equal(expected.GetProperty("category").GetString(), reading.Problem!.Code);
        Assert.EndsWith(".", reading.Problem.Message.TrimEnd('“', '”'), StringComparison.Ordinal);
    }

    [Fact]
    public void A_row_cut_in_the_middle_of_a_number_is_left_out_and_told()
    {
        Log log = Example.Read(Path.Combine(Example.Folder("bad"), "truncated.csv")).Log!;
        Assert.Equal(Example.Truth("bad", "expected.json").GetProperty("truncated.csv").GetProperty("samples").GetInt32(), log.Samples);
        Assert.Contains(log.Warnings, warning => warning.Code == "truncated-last-row");
    }

    [Theory]
    [InlineData(new byte[] { 0x89, (byte)'P', (byte)'N', (byte)'G', 13, 10, 26, 10 }, "picture")]
    [InlineData(new byte[] { (byte)'%', (byte)'P', (byte)'D', (byte)'F', (byte)'-' }, "PDF")]
    public void A_picture_or_a_document_is_called_what_it_is(byte[] bytes, string word) =>
        Assert.Contains(word, LogReader.Read(new MemoryStream(bytes)).Problem!.Message, StringComparison.Ordinal);

    [Fact]
    public void A_file_without_line_ends_stops_at_a_bound()
    {
        LogReading reading = Example.ReadText("Time [s],CPU temperature [°C]\n0,50\n" + new string('7', 3 << 20));
        Assert.Equal("row-too-long", reading.Problem!.Code);
        Assert.Equal(3, reading.Problem.Line);
    }

    [Fact]
    public void Any_damage_to_a_good_log_gives_an_answer_or_a_sentence()
    {
        byte[] good = File.ReadAllBytes(Example.Find("dialects", "comma-iso-bracket"))[..12000];
        Gen<(int At, byte[] Bytes, int Cut)> damage = Gen.Select(Gen.Int[0, good.Length - 1], Gen.Byte.Array[0, 40], Gen.Int[0, 40]);
        damage
            .List[1, 8]
            .Sample(
                list =>
                {
                    List<byte> bytes = [.. good];
                    foreach ((int at, byte[] put, int cut) in list)
                    {
                        int place = Math.Min(at, bytes.Count);
                        bytes.RemoveRange(place, Math.Min(cut, bytes.Count - place));
                        bytes.InsertRange(place, put);
                    }

                    Answers([.. bytes]);
                },
                iter: 400
            );
    }

    [Fact]
    public void Any_text_gives_an_answer_or_a_sentence() =>
        Gen.OneOf(Gen.String[Gen.Char["0123456789,;\t\"\n\r.-:TZ °CWcpu"], 0, 400], Gen.String[0, 200])
            .Sample(text => Answers(Encoding.UTF8.GetBytes("Time [s],CPU temperature [°C]\n" + text)), iter: 1000);

    private static void Answers(byte[] bytes)
    {
        LogReading reading = LogReader.Read(new MemoryStream(bytes));
        Assert.True(reading.Log is null ^ reading.Problem is null);
        if (reading.Log is { } log)
        {
            for (int i = 1; i < log.Samples; i++)
            {
                Assert.True(log.TimeSeconds[i] >= log.TimeSeconds[i - 1], "time runs backwards");
            }

            Assert.All(log.Channels.Where(c => c.Role != ChannelRole.Time), channel => Assert.Equal(log.Samples, channel.Values.Length));
        }
    }
}

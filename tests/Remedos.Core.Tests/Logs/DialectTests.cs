using System.Text;
using System.Text.Json;
using Remedos.Core.Logs;

namespace Remedos.Core.Tests.Logs;

/// <summary>One run of five minutes written eight ways, and ten whole runs: rows, roles and means against the truth.</summary>
public sealed class DialectTests
{
    public static TheoryData<string, string> Files()
    {
        TheoryData<string, string> files = [];
        foreach (string folder in new[] { "dialects", "runs" })
        {
            foreach (string path in Directory.GetFiles(Example.Folder(folder), "*.?sv"))
            {
                files.Add(folder, Path.GetFileNameWithoutExtension(path));
            }
        }

        return files;
    }

    [Theory]
    [MemberData(nameof(Files))]
    public void Every_dialect_reads_to_its_truth(string folder, string name)
    {
        JsonElement truth =
            folder == "runs"
                ? Example.Truth(folder).GetProperty("runs").GetProperty(name).GetProperty("reader")
                : Example.Truth(folder).GetProperty(name);
        Log log = Example.Read(Example.Find(folder, name)).Log!;

        Assert.Equal(truth.GetProperty("samples").GetInt32(), log.Samples);
        Assert.Equal(truth.Number("durationSeconds"), log.DurationSeconds, 0.002);
        JsonElement[] channels = [.. truth.GetProperty("channels").EnumerateArray()];
        Assert.Equal(
            channels.Select(c => (c.GetProperty("source").GetString()!, c.GetProperty("role").GetString()!)),
            log.Channels.Select(c => (c.Source, c.Role.Name()))
        );
        Channel chip = log.Find(ChannelRole.CpuTemperature)!;
        Assert.Equal(truth.GetProperty("cpuTemperatureSamples").GetInt32(), chip.Samples);
        Assert.Equal(truth.Number("cpuTemperatureMeanC"), chip.Mean!.Value, 0.01);
    }

    [Theory]
    [InlineData("utf-8", true)]
    [InlineData("utf-16", true)]
    [InlineData("utf-16BE", true)]
    [InlineData("utf-16", false)]
    public void Encodings_give_the_same_log(string encoding, bool mark)
    {
        Encoding chosen = Encoding.GetEncoding(encoding);
        byte[] bytes = [.. mark ? chosen.GetPreamble() : [], .. chosen.GetBytes(Rows(40))];
        Log log = LogReader.Read(new MemoryStream(bytes)).Log!;
        Assert.Equal(40, log.Samples);
        Assert.Equal("CPU temperature [°C]", log.Channels[1].Source);
    }

    [Fact]
    public void Quotes_hold_delimiters_line_ends_and_quotes()
    {
        Log log = Example
            .ReadText("\"Time [s]\",\"CPU \"\"die\"\" temperature, °C\",\"Note\"\r\n0,50,\"a, b\nc\"\r\n1,51,\"\"\"x\"\"\"\r\n")
            .Log!;
        Assert.Equal(2, log.Samples);
        Assert.Equal("CPU \"die\" temperature, °C", log.Channels[1].Source);
        Assert.Equal(50.5, log.Channels[1].Mean!.Value, 9);
    }

    [Fact]
    public void Impossible_samples_are_counted_not_dropped()
    {
        string[] rows =
        [
            .. Enumerable
                .Range(0, 60)
                .Select(i => $"{i},{(i == 20 ? 900 : i == 40 ? 99 : 50)},100"),
        ];
        Log log = Example.ReadText("Time [s],CPU temperature [°C],CPU power [W]\n" + string.Join('\n', rows) + "\n").Log!;
        Channel chip = log.Find(ChannelRole.CpuTemperature)!;
        Assert.Equal((58, 2, 50.0), (chip.Samples, chip.Rejected, chip.Mean!.Value));
        Assert.Contains(log.Warnings, warning => warning.Code == "samples-rejected");
    }

    [Theory]
    [InlineData("CPU Package [°C]", "cpu-temperature")]
    [InlineData("cpu_control_temp_c", "cpu-control-temperature")]
    [InlineData("Core #3 temperature (°C)", "core-temperature")]
    [InlineData("CPU package power [W]", "cpu-power")]
    [InlineData("cpuClockGHz", "cpu-clock")]
    [InlineData("Core 2 clock [MHz]", "core-clock")]
    [InlineData("GPU hot spot temperature [°C]", "gpu-hotspot-temperature")]
    [InlineData("GPU memory temperature [°C]", "gpu-memory-temperature")]
    [InlineData("GPU fan [RPM]", "gpu-fan-speed")]
    [InlineData("Tube, block to radiator [°C]", "tube-out-temperature")]
    [InlineData("Tube, radiator to block [°C]", "tube-return-temperature")]
    [InlineData("Liquid temp, °C", "coolant-temperature")]
    [InlineData("Pump [RPM]", "pump-speed")]
    [InlineData("CPU throttled [Yes/No]", "throttle-flag")]
    [InlineData("Sound level [dB(A)]", "sound-level")]
    [InlineData("Room temperature [°C]", "ambient-temperature")]
    [InlineData("Case air [°C]", "case-air-temperature")]
    [InlineData("CPU core voltage [V]", "other")]
    [InlineData("Memory used [MB]", "other")]
    [InlineData("Battery [%]", "other")]
    public void Roles_follow_name_and_unit(string header, string role) =>
        Assert.Equal(role, RoleGuess.Of(ChannelName.Parse(header)).Role.Name());

    [Theory]
    [InlineData("CPU", 800, 4800, "cpu-clock")]
    [InlineData("CPU", 35, 88, "cpu-temperature")]
    [InlineData("GPU", 34, 71, "gpu-temperature")]
    [InlineData("Drawer", 800, 4800, "other")]
    public void A_name_without_a_quantity_is_judged_by_its_numbers(string header, double low, double high, string role)
    {
        RoleGuessed guess = RoleGuess.Of(
            ChannelName.Parse(header),
            [.. Enumerable.Range(0, 20).Select(i => low + ((high - low) * i / 19))]
        );
        Assert.Equal(role, guess.Role.Name());
        Assert.True(guess.Confidence < RoleGuess.Of(ChannelName.Parse("CPU clock [MHz]")).Confidence);
    }

    [Fact]
    public void What_was_said_of_a_header_wins_over_the_guess()
    {
        string? asked = null;
        using MemoryStream bytes = new(Encoding.UTF8.GetBytes(Rows(30)));
        Log log = LogReader
            .Read(bytes, remembered: fingerprint =>
                (asked = fingerprint) is null ? null : new Dictionary<int, ChannelRole> { [2] = ChannelRole.GpuPower }
            )
            .Log!;
        Assert.Equal(log.HeaderFingerprint, asked);
        Assert.Equal((ChannelRole.GpuPower, "W", 1.0), (log.Channels[2].Role, log.Channels[2].Unit, log.Channels[2].Confidence));
        Assert.NotEqual(
            log.HeaderFingerprint,
            Example.ReadText("Time [s],CPU temperature [°C],CPU power [mW]\n0,50,100\n1,51,100\n").Log!.HeaderFingerprint
        );
    }

    private static string Rows(int count) =>
        "Time [s],CPU temperature [°C],CPU power [W]\n"
        + string.Concat(Enumerable.Range(0, count).Select(i => $"{i},{50 + (i % 7)},{100 + (i % 3)}\n"));
}

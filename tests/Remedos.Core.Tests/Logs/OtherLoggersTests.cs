using System.Globalization;
using System.Text;
using Remedos.Core.Logs;
using Remedos.Core.Runs;

namespace Remedos.Core.Tests.Logs;

/// <summary>Names, times and surroundings as loggers that nobody here has seen may write them.</summary>
public sealed class OtherLoggersTests
{
    private static readonly DateTime Start = new(2031, 3, 9, 23, 52, 7, 250, DateTimeKind.Utc);

    [Theory]
    [InlineData(
        "cpu-temperature",
        "CPU Temp|Processor temperature|CPU (Tdie) [°C]|Tdie|Package Temperature|pkg_temp|cpu.temp|CPU_TEMP_DEGC|cpuTempC|SoC "
            + "temperature|CPU Die (average) [°C]|Core Max [°C]|Temp. CPU [°C]|x86_pkg_temp|Package id 0 [°C]|Prozessor-Temperatur "
            + "[°C]|CPU temp., °C|Température processeur [°C]"
    )]
    [InlineData("cpu-control-temperature", "Tctl|CPU Tctl [°C]|CPU control temperature")]
    [InlineData("core-temperature", "Core 0 [°C]|Core #1 temp|CPU core 2 temperature|core3_temp|P-core 3 [°C]|Kern 4 Temperatur [°C]")]
    [InlineData(
        "cpu-power",
        "CPU Package Power|CPU package [W]|Package power (W)|PPT [W]|pkg_watts|cpuPowerW|rapl package-0 [W]|CPU Leistung [W]"
    )]
    [InlineData(
        "cpu-clock",
        "CPU clock|CPU Frequency [MHz]|Average core clock [MHz]|cpu_mhz|Effective clock avg [MHz]|Core clocks (avg) [MHz]|CPU-Takt [MHz]"
    )]
    [InlineData("core-clock", "Core 0 clock [MHz]|Core #3 frequency|core5_mhz")]
    [InlineData("cpu-load", "CPU usage|Total CPU usage [%]|cpu_util|CPU total [%]|CPU Auslastung [%]")]
    [InlineData("gpu-temperature", "GPU temp|Graphics temp|GPU [°C]|GPU edge [°C]")]
    [InlineData("gpu-hotspot-temperature", "GPU hot spot [°C]|GPU Hotspot temperature|gpu junction temp")]
    [InlineData("gpu-memory-temperature", "GPU memory temperature|VRAM temp|GPU mem junction [°C]")]
    [InlineData("coolant-temperature", "Liquid temperature|Water temp [°C]|coolant_c|Loop temperature [°C]")]
    [InlineData("tube-out-temperature", "Tube out [°C]|Hose block to radiator [°C]")]
    [InlineData("tube-return-temperature", "Tube return [°C]|Hose radiator to block [°C]")]
    [InlineData("ambient-temperature", "Room temp|room_c|Ambient temperature [°C]|Intake air [°C]|Raumtemperatur [°C]")]
    [InlineData("case-air-temperature", "Chassis temperature|case_air_c|Internal air [°C]|Gehäuse Temperatur [°C]")]
    [InlineData("cpu-fan-speed", "CPU fan|cpu_fan_rpm|Fan CPU (rpm)|CPU-Lüfter [RPM]")]
    [InlineData("case-fan-speed", "Chassis fan 1 [RPM]|CHA_FAN1 [RPM]|SYS_FAN1|System fan 2 [RPM]|Rear fan [RPM]")]
    [InlineData("pump-speed", "Pump|Loop pump [RPM]|W_PUMP+ [RPM]|Pumpe [RPM]")]
    [InlineData("throttle-flag", "Thermal throttling|CPU throttling [Yes/No]|PROCHOT")]
    [InlineData("sound-level", "Noise [dBA]|Sound level dB(A)|noise_dba")]
    [InlineData(
        "other",
        "Drive temperature [°C]|Memory temp [°C]|VRM temperature|Fan duty [%]|CPU voltage [V]|DRAM power [W]|GPU clock [MHz]|Battery "
            + "[%]|CPU power limit [W]|CPU fan [%]"
    )]
    public void A_header_is_understood(string role, string names)
    {
        foreach (string name in names.Split('|'))
        {
            Assert.Equal((name, role), (name, RoleGuess.Of(ChannelName.Parse(name)).Role.Name()));
        }
    }

    /// <summary>A header without a quantity is judged by its numbers.</summary>
    [Theory]
    [InlineData("Coolant", 31.5, "coolant-temperature")]
    [InlineData("Ambient", 22.1, "ambient-temperature")]
    [InlineData("Case air", 34, "case-air-temperature")]
    [InlineData("CPU", 62, "cpu-temperature")]
    [InlineData("CPU", 4410, "cpu-clock")]
    public void Numbers_speak_where_the_name_does_not(string name, double value, string role) =>
        Assert.Equal(role, RoleGuess.Of(ChannelName.Parse(name), [value, value + 1, value, value + 2, value]).Role.Name());

    public static TheoryData<string, string> Times =>
        new()
        {
            { "Timestamp", "yyyy-MM-ddTHH:mm:ss.fff" },
            { "time", "yyyy-MM-ddTHH:mm:ssZ" },
            { "time", "yyyy-MM-ddTHH:mm:ss+01:00" },
            { "time", "yyyy-MM-ddTHH:mm:ss.fffffff+0100" },
            { "Date/Time", "yyyy/MM/dd HH:mm:ss" },
            { "Datum", "dd.MM.yyyy HH:mm:ss" },
            { "Date", "dd/MM/yyyy HH:mm:ss" },
            { "Date", "MM/dd/yyyy hh:mm:ss tt" },
            { "Date", "dd.MM.yy HH:mm:ss" },
            { "Date", "dd MMM yyyy HH:mm:ss" },
            { "Date", "dd-MMM-yy HH:mm:ss" },
            { "Date", "MMM d, yyyy HH:mm:ss" },
            { "Date", "ddd, dd MMM yyyy HH:mm:ss" },
            { "Timestamp", "yyyyMMddTHHmmss" },
            { "Timestamp", "yyyyMMddHHmmss" },
            { "Time", "HH:mm:ss" },
            { "Time", "HH:mm:ss:fff" },
            { "", "HH:mm:ss.fff" },
        };

    [Theory]
    [MemberData(nameof(Times))]
    public void A_clock_is_read_past_midnight(string header, string format) =>
        Holds(header, second => Start.AddSeconds(second).ToString(format, CultureInfo.InvariantCulture));

    [Theory]
    [InlineData("Elapsed")]
    [InlineData("Elapsed time")]
    public void Minutes_and_seconds_of_a_run_are_no_time_of_day(string header) =>
        Holds(header, second => $"{second / 60}:{second % 60:00}");

    [Theory]
    [InlineData("Elapsed (s)", 1, 0)]
    [InlineData("elapsed_ms", 1000, 0)]
    [InlineData("Time [min]", 1 / 60.0, 0)]
    [InlineData("time (h)", 1 / 3600.0, 0)]
    [InlineData("t", 1, 0)]
    [InlineData("Sec", 1, 0)]
    [InlineData("Seconds since start", 1, 0)]
    [InlineData("Uptime [s]", 1, 54321)]
    [InlineData("unix", 1, 1930000000)]
    [InlineData("ts", 1000, 1930000000e3)]
    [InlineData("epoch_us", 1e6, 1930000000e6)]
    [InlineData("Date", 1 / 86400.0, 48000)]
    public void A_number_is_a_time(string header, double perSecond, double start) =>
        Holds(header, second => (start + (second * perSecond)).ToString("0.#########", CultureInfo.InvariantCulture));

    [Theory]
    [InlineData("# SensorPad 3.1\n# machine: desk\n", "")]
    [InlineData("Sensor log\nMachine: desk 4\n\n", "")]
    [InlineData("Logger version,3.1\nMachine,desk\nInterval,1000\n", "")]
    [InlineData("", "Min,45.0,20.0\nMax,76.0,124.0\nAverage,61,70\n")]
    [InlineData("", "\nend of log\n")]
    public void What_a_logger_says_around_its_table_is_no_table(string before, string after) =>
        Holds("Time", second => Start.AddSeconds(second).ToString("HH:mm:ss", CultureInfo.InvariantCulture), before, after);

    /// <summary>A field with a comma in a table of commas stood in quotes, so the comma is the decimal sign.</summary>
    [Fact]
    public void Quoted_decimal_commas_are_numbers()
    {
        string text =
            "Time [s],CPU temperature [°C],CPU power [W]\n"
            + string.Concat(Enumerable.Range(0, 300).Select(i => $"\"{i},0\",\"{40 + (i % 2)},5\",\"20,25\"\n"));
        Log log = LogReader.Read(new MemoryStream(Encoding.UTF8.GetBytes(text))).Log!;
        Assert.Equal((299.0, 41.0, 20.25), (log.DurationSeconds, log.Channels[1].Mean!.Value, log.Channels[2].Mean!.Value));
    }

    private static void Holds(string header, Func<int, string> time, string before = "", string after = "")
    {
        StringBuilder text = new(
            $"{before}{(header.Contains(',', StringComparison.Ordinal) ? $"\"{header}\"" : header)},CPU temperature [°C],CPU power [W]\n"
        );
        for (int i = 0; i < 900; i++)
        {
            bool load = i is > 200 and < 700;
            string cell = time(i);
            text.Append(
                CultureInfo.InvariantCulture,
                $"{(cell.Contains(',', StringComparison.Ordinal) ? $"\"{cell}\"" : cell)},{(load ? 75 : 45) + (i % 3 * 0.5):0.0},"
                    + $"{(load ? 120 : 20) + (i % 5)}\n"
            );
        }

        LogReading reading = LogReader.Read(new MemoryStream(Encoding.UTF8.GetBytes(text + after)));
        Assert.Null(reading.Problem);
        Assert.Equal(900, reading.Log!.Samples);
        Assert.Equal(899, reading.Log.DurationSeconds, 0.5);
        Assert.Equal(122, RunAnalyzer.Analyze(reading.Log, new RunConditions()).Load!.SustainedPowerW!.Value, 1.0);
    }
}

using Remedos.Core.Machines;

namespace Remedos.Core.Runs;

/// <summary>What a log does not say about how a run was made. Every field is optional; see docs/formats.md.</summary>
/// <param name="Workload">idle, burst, all-core, vector, game-like, cpu-and-gpu, or the technician's own words.</param>
/// <param name="Panel">closed, side-off or open-bench.</param>
/// <param name="FanPolicy">auto or fixed.</param>
/// <param name="FanPercent">Of a fixed policy, %.</param>
/// <param name="PowerCapW">A power cap that was set for the run, W.</param>
/// <param name="ClockLockMHz">A clock that was locked for the run, MHz.</param>
/// <param name="AmbientC">One reading of the room; a channel in the log wins over it.</param>
/// <param name="TemperatureLimitC">Where the processor protects itself, °C.</param>
/// <param name="RatedPowerW">The processor's rated sustained power, W.</param>
/// <param name="HoursSinceMount">Age of the paste, h.</param>
/// <param name="HeatCyclesSinceMount">Full-load heat-ups since the cooler was mounted.</param>
/// <param name="CoolerKind">down-draught, tower, dual-tower, liquid or passive.</param>
/// <param name="FellSilent">Whether the machine was not heard any more while it was under load: it switched itself off, or lost its
/// network.</param>
/// <param name="Trial">What was changed to see whether it cures it, of <see cref="Trials"/>; null for nothing. Panel, fans and cap have
/// fields of their own.</param>
/// <param name="Load">Where the load begins and ends, if it was marked by hand; null to find it.</param>
public sealed record RunConditions(
    string? Workload = null,
    string? Panel = null,
    string? FanPolicy = null,
    double? FanPercent = null,
    double? PowerCapW = null,
    double? ClockLockMHz = null,
    double? AmbientC = null,
    double? TemperatureLimitC = null,
    double? RatedPowerW = null,
    double? HoursSinceMount = null,
    double? HeatCyclesSinceMount = null,
    string? CoolerKind = null,
    LoadEdges? Load = null,
    string? Trial = null,
    bool? FellSilent = null
)
{
    /// <summary>Runs with the same one share one mounting of the cooler; only on the command line, where no job tells it.</summary>
    public string? Mount { get; init; }

    /// <summary>A core voltage that was locked for the run, V.</summary>
    public double? VoltageLockV { get; init; }

    /// <summary>What the graphics card did meanwhile: idle, light or full.</summary>
    public string? CardLoad { get; init; }

    /// <summary>The fan speed that was asked for, where it was asked for in turns and not in percent, rpm.</summary>
    public double? FanRpm { get; init; }

    /// <summary>Where the graphics card protects itself, by its core, its hot spot and its memory, °C.</summary>
    public double? GpuTemperatureLimitC { get; init; }

    /// <summary>Limit of the card's hottest point, °C.</summary>
    public double? GpuHotspotLimitC { get; init; }

    /// <summary>Limit of the card's memory, °C.</summary>
    public double? GpuMemoryLimitC { get; init; }

    /// <summary>The paste's name.</summary>
    public string? Paste { get; init; }

    /// <summary>How it was put on.</summary>
    public string? PasteMethod { get; init; }

    /// <summary>A sound meter's reading during the load, dB(A), and how far from the machine it stood, m.</summary>
    public double? SoundDba { get; init; }

    /// <summary>How far the sound meter stood, m.</summary>
    public double? SoundDistanceM { get; init; }

    /// <summary>What the load's program said of the work done, and in what.</summary>
    public double? Score { get; init; }

    /// <summary>Name of the benchmark whose score is read.</summary>
    public string? ScoreName { get; init; }

    /// <summary>What else is different about this run, in words: display, memory, driver.</summary>
    public string? Changed { get; init; }

    /// <summary>The reading at a metre, dB(A); a distance that nobody noted is taken for one.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public double? SoundAtOneMetreDba => SoundDba + (20 * Math.Log10(SoundDistanceM ?? 1));

    /// <summary>More than a century is no age of a paste, h.</summary>
    public const double MostHoursSinceMount = 1e6;

    private const int LongestText = 200;

    /// <summary>A cap or a lock of this is said to be none; a missing one is not known.</summary>
    public const double NoCap = 0;

    /// <summary>How the case can stand.</summary>
    public static readonly string[] Panels = ["closed", "side-off", "open-bench"];

    /// <summary>How the fans can be driven.</summary>
    public static readonly string[] FanPolicies = ["auto", "fixed"];

    /// <summary>What the card can do meanwhile.</summary>
    public static readonly string[] CardLoads = ["idle", "light", "full"];

    /// <summary>What can be tried.</summary>
    public static readonly string[] Trials = ["pump-full", "known-good-cooler", "cooler-room"];

    /// <summary>As the owner uses the machine: closed, its own fans, nothing capped or tried.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public bool IsUsual =>
        this
            is {
                Panel: null or "closed",
                FanPolicy: null or "auto",
                PowerCapW: null or NoCap,
                ClockLockMHz: null or NoCap,
                VoltageLockV: null or NoCap,
                Trial: null
            };

    /// <summary>Sentences for what cannot be, keyed by the field's contract name; empty when all is well.</summary>
    public IReadOnlyDictionary<string, string> Problems()
    {
        Dictionary<string, string> problems = [];
        OneOf("panel", Panel, Panels);
        OneOf("fanPolicy", FanPolicy, FanPolicies);
        OneOf("coolerKind", CoolerKind, CoolerPart.Kinds);
        OneOf("trial", Trial, Trials);
        Between("fanPercent", FanPercent, 0, 100, "%");
        Between("ambientC", AmbientC, -40, 60, "°C");
        Between("temperatureLimitC", TemperatureLimitC, 40, 130, "°C");
        Between("ratedPowerW", RatedPowerW, 1, 2000, "W");
        OneOf("cardLoad", CardLoad, CardLoads);
        Between("powerCapW", PowerCapW is NoCap ? null : PowerCapW, 1, 2000, "W");
        Between("clockLockMHz", ClockLockMHz is NoCap ? null : ClockLockMHz, 100, 20000, "MHz");
        Between("voltageLockV", VoltageLockV is NoCap ? null : VoltageLockV, 0.2, 3, "V");
        Between("fanRpm", FanRpm, 0, 20000, "rpm");
        Between("gpuTemperatureLimitC", GpuTemperatureLimitC, 40, 130, "°C");
        Between("gpuHotspotLimitC", GpuHotspotLimitC, 40, 150, "°C");
        Between("gpuMemoryLimitC", GpuMemoryLimitC, 40, 150, "°C");
        Between("soundDba", SoundDba, 5, 120, "dB(A)");
        Between("soundDistanceM", SoundDistanceM, 0.05, 10, "m");
        Between("score", Score, 1e-6, 1e12, "points");
        Between("hoursSinceMount", HoursSinceMount, 0, MostHoursSinceMount, "hours");
        Between("heatCyclesSinceMount", HeatCyclesSinceMount, 0, 1e6, "heat cycles");
        Fits("workload", Workload);
        Fits("mount", Mount);
        Fits("paste", Paste);
        Fits("pasteMethod", PasteMethod);
        Fits("scoreName", ScoreName);
        Fits("changed", Changed);

        if (Load?.Problem is { } edges)
        {
            problems["load"] = edges;
        }

        return problems;

        void Fits(string field, string? value)
        {
            if (value?.Length > LongestText)
            {
                problems[field] = $"At most {LongestText} letters fit here.";
            }
        }

        void OneOf(string field, string? value, string[] allowed)
        {
            if (value is not null && !allowed.Contains(value))
            {
                problems[field] = $"“{value}” is none of {string.Join(", ", allowed)}.";
            }
        }

        void Between(string field, double? value, double low, double high, string unit)
        {
            if (value is { } number && !(number >= low && number <= high))
            {
                problems[field] = $"{number:0.##} is outside {low:0} to {high:0} {unit}.";
            }
        }
    }
}

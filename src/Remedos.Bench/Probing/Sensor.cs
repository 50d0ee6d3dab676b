using System.Globalization;
using Remedos.Core.Logs;

namespace Remedos.Bench.Probing;

/// <summary>One value that the kernel shows.</summary>
/// <param name="Label">How the kernel names it, for the technician.</param>
/// <param name="LimitC">Where the kernel says that it becomes critical, °C; null when it does not.</param>
internal abstract record Sensor(ChannelRole Role, int Index, string Label, double? LimitC)
{
    /// <summary>The value now, in the role's unit; null when it cannot be read or is not known yet.</summary>
    /// <param name="seconds">On the probe's clock.</param>
    public abstract double? Read(double seconds);

    /// <summary>A number in a file; null when it is not there, may not be read, or is none.</summary>
    public static double? NumberIn(string path)
    {
        try
        {
            return double.TryParse(File.ReadAllText(path).Trim(), NumberStyles.Float, CultureInfo.InvariantCulture, out double value)
                ? value
                : null;
        }
        catch (Exception failure) when (failure is IOException or UnauthorizedAccessException)
        {
            return null;
        }
    }
}

/// <summary>A file that holds the value itself, in thousandths, millionths or as it is.</summary>
internal sealed record FileSensor(ChannelRole Role, int Index, string Label, string Path, double PerUnit, double? LimitC = null)
    : Sensor(Role, Index, Label, LimitC)
{
    public override double? Read(double seconds) => NumberIn(Path) / PerUnit;
}

/// <summary>A counter of energy, µJ, that begins again at its greatest value; its pace is a power.</summary>
internal sealed record EnergySensor(ChannelRole Role, int Index, string Label, string Path, double? RangeMicrojoules)
    : Sensor(Role, Index, Label, null)
{
    private (double Seconds, double Microjoules)? _before;

    public override double? Read(double seconds)
    {
        double? now = NumberIn(Path);
        (double Seconds, double Microjoules)? before = _before;
        _before = now is { } there ? (seconds, there) : null;
        if (now is not { } energy || before is not { } last || seconds <= last.Seconds)
        {
            return null;
        }

        double used = energy - last.Microjoules;
        used = used < 0 && RangeMicrojoules is { } range ? used + range : used;
        return used < 0 ? null : used / 1e6 / (seconds - last.Seconds);
    }
}

/// <summary>How often the processor has protected itself, summed; a step since the reading before is the flag.</summary>
internal sealed record ThrottleSensor(IReadOnlyList<string> Paths)
    : Sensor(ChannelRole.ThrottleFlag, 0, "times that the processor slowed itself down", null)
{
    private double? _before;

    public override double? Read(double seconds)
    {
        double now = Paths.Sum(path => NumberIn(path) ?? 0);
        double? flag = _before is { } before
            ? now > before
                ? 1
                : 0
            : null;
        _before = now;
        return flag;
    }
}

/// <summary>The share of time that the processors worked since the reading before, %.</summary>
internal sealed record LoadSensor(string Path) : Sensor(ChannelRole.CpuLoad, 0, "share of time at work", null)
{
    private const int IdleColumn = 4,
        WaitColumn = 5,
        Columns = 9;

    private (double Busy, double All)? _before;

    public override double? Read(double seconds)
    {
        string[] cells;
        try
        {
            cells = File.ReadLines(Path).FirstOrDefault()?.Split(' ', StringSplitOptions.RemoveEmptyEntries) ?? [];
        }
        catch (Exception failure) when (failure is IOException or UnauthorizedAccessException)
        {
            return null;
        }

        if (cells.Length <= WaitColumn || cells[0] != "cpu")
        {
            return null;
        }

        // Guest time is in user time already.
        double[] ticks =
        [
            .. cells
                .Skip(1)
                .Take(Columns - 1)
                .Select(cell => double.TryParse(cell, CultureInfo.InvariantCulture, out double value) ? value : 0),
        ];
        double all = ticks.Sum(),
            busy = all - ticks[IdleColumn - 1] - ticks[WaitColumn - 1];
        double? share = _before is { } before && all > before.All ? 100 * (busy - before.Busy) / (all - before.All) : null;
        _before = (busy, all);
        return share is { } there ? Math.Clamp(there, 0, 100) : null;
    }
}

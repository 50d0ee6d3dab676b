namespace Remedos.Core.Logs;

/// <summary>One column of a log.</summary>
/// <param name="Column">Its place in the file, from 0.</param>
/// <param name="Source">Its header as written, without a row of units.</param>
/// <param name="Role">What it means.</param>
/// <param name="Unit">The canonical unit of <paramref name="Values"/> (see <see cref="ChannelUnit"/>); empty when unknown.</param>
/// <param name="Values">One value a row, in the canonical unit; NaN where missing or rejected. Empty for time columns.</param>
/// <param name="Samples">How many values are present and not rejected.</param>
/// <param name="Rejected">How many were there but impossible.</param>
/// <param name="Mean">Mean over the samples; null when there are none, and for time columns.</param>
/// <param name="Confidence">How sure the role is, 0…1; 1 when a technician said it.</param>
public sealed record Channel(
    int Column,
    string Source,
    ChannelRole Role,
    string Unit,
    float[] Values,
    int Samples,
    int Rejected,
    double? Mean,
    double Confidence = 1
)
{
    /// <summary>The rows from one to before another; its samples and mean are counted anew.</summary>
    internal Channel Part(int first, int behind)
    {
        if (Values.Length == 0)
        {
            return Role == ChannelRole.Time ? this with { Samples = behind - first } : this;
        }

        float[] values = Values[first..behind];
        double sum = 0;
        int samples = 0;
        foreach (float value in values)
        {
            sum += float.IsNaN(value) ? 0 : value;
            samples += float.IsNaN(value) ? 0 : 1;
        }

        return this with
        {
            Values = values,
            Samples = samples,
            Mean = samples == 0 ? null : sum / samples,
        };
    }
}

/// <summary>A log as read: a shared time base and its channels in the file's order, time columns included.</summary>
/// <param name="TimeSeconds">Elapsed time of each row since the first; never runs backwards.</param>
/// <param name="Channels">Every column of the file.</param>
/// <param name="StartedUnixSeconds">The first row's time on the logger's clock, if the log has dates.</param>
/// <param name="Warnings">What was left out, repaired or assumed.</param>
public sealed record Log(double[] TimeSeconds, IReadOnlyList<Channel> Channels, double? StartedUnixSeconds, IReadOnlyList<Warning> Warnings)
{
    private const double ShortestGapSeconds = 60,
        GapIntervals = 20;

    /// <summary>Stands for the header as a whole, so that what was said of its columns is known again at the next log.</summary>
    public string HeaderFingerprint { get; init; } = "";

    /// <summary>
    /// The log that this is a stretch of, its clock set so that 0 is this stretch's first row; null when this is all of it. What lies
    /// before a stretch still warms its first minutes.
    /// </summary>
    public Log? Whole { get; init; }

    /// <summary>Rows with a readable time and at least one reading.</summary>
    public int Samples => TimeSeconds.Length;

    /// <summary>From the first row to the last, s.</summary>
    public double DurationSeconds => TimeSeconds.Length == 0 ? 0 : TimeSeconds[^1] - TimeSeconds[0];

    /// <summary>The median step between rows, s.</summary>
    public double IntervalSeconds { get; private init; } = MedianStep(TimeSeconds);

    private static double MedianStep(double[] time)
    {
        double[] steps = new double[Math.Max(0, time.Length - 1)];
        for (int i = 0; i < steps.Length; i++)
        {
            steps[i] = time[i + 1] - time[i];
        }

        Array.Sort(steps);
        return steps.Length == 0 ? 0 : steps[steps.Length / 2];
    }

    /// <summary>Whether nothing was logged for so long before a row that what lies on both sides of it are two recordings.</summary>
    public bool IsGapBefore(int row) =>
        row > 0 && TimeSeconds[row] - TimeSeconds[row - 1] > Math.Max(ShortestGapSeconds, GapIntervals * IntervalSeconds);

    /// <summary>
    /// The rows from one time to another, both included, as a log of its own whose time starts at 0. Rejected samples stay counted for the
    /// file as a whole.
    /// </summary>
    public Log Part(double fromSeconds, double toSeconds)
    {
        int first = Row(fromSeconds),
            behind = Row(Math.BitIncrement(toSeconds));
        if (first == 0 && behind == Samples)
        {
            return this;
        }

        double start = TimeSeconds[Math.Min(first, Samples - 1)];
        double[] Shifted(int from, int to) => [.. TimeSeconds[from..to].Select(time => time - start)];
        return this with
        {
            TimeSeconds = Shifted(first, behind),
            Channels = [.. Channels.Select(channel => channel.Part(first, behind))],
            StartedUnixSeconds = StartedUnixSeconds + start,
            Whole = this with { TimeSeconds = Shifted(0, Samples) },
            IntervalSeconds = MedianStep(TimeSeconds[first..behind]),
        };
    }

    /// <summary>The first row at or after a time.</summary>
    private int Row(double seconds)
    {
        int index = Array.BinarySearch(TimeSeconds, seconds);
        index = index < 0 ? ~index : index;
        while (index > 0 && index < Samples && TimeSeconds[index - 1] >= seconds)
        {
            index--;
        }

        return index;
    }

    /// <summary>The best column of a role: of several, the one with the most samples, the first of equals.</summary>
    public Channel? Find(ChannelRole role) =>
        Channels.Where(channel => channel.Role == role && channel.Samples > 0).MaxBy(channel => channel.Samples);
}

/// <summary>The outcome of reading: a log, or the problem that prevented it.</summary>
public sealed record LogReading(Log? Log, LogProblem? Problem);

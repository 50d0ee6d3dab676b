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
public sealed record Channel(int Column, string Source, ChannelRole Role, string Unit, float[] Values, int Samples, int Rejected, double? Mean, double Confidence = 1);

/// <summary>A log as read: a shared time base and its channels in the file's order, time columns included.</summary>
/// <param name="TimeSeconds">Elapsed time of each row since the first; never runs backwards.</param>
/// <param name="Channels">Every column of the file.</param>
/// <param name="StartedUnixSeconds">The first row's time on the logger's clock, if the log has dates.</param>
/// <param name="Warnings">What was left out, repaired or assumed.</param>
public sealed record Log(double[] TimeSeconds, IReadOnlyList<Channel> Channels, double? StartedUnixSeconds, IReadOnlyList<Warning> Warnings)
{
    /// <summary>Stands for the header as a whole, so that what was said of its columns is known again at the next log.</summary>
    public string HeaderFingerprint { get; init; } = "";

    /// <summary>Rows with a readable time and at least one reading.</summary>
    public int Samples => TimeSeconds.Length;

    public double DurationSeconds => TimeSeconds.Length == 0 ? 0 : TimeSeconds[^1] - TimeSeconds[0];

    /// <summary>The median step between rows, s.</summary>
    public double IntervalSeconds { get; } = MedianStep(TimeSeconds);

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

    /// <summary>The best column of a role: of several, the one with the most samples, the first of equals.</summary>
    public Channel? Find(ChannelRole role) => Channels.Where(channel => channel.Role == role && channel.Samples > 0).MaxBy(channel => channel.Samples);
}

/// <summary>The outcome of reading: a log, or the problem that prevented it.</summary>
public sealed record LogReading(Log? Log, LogProblem? Problem);

namespace Remedos.Core.Logs;

/// <summary>A column as the first rows of its log show it.</summary>
/// <param name="Column">Its place in the file, from 0.</param>
/// <param name="Source">Its header as written.</param>
/// <param name="Role">What it is taken for.</param>
/// <param name="Unit">The canonical unit; empty when unknown.</param>
/// <param name="Confidence">How sure the role is, 0…1; 1 when a technician said it.</param>
/// <param name="First">Its first values, for reading.</param>
public sealed record LogColumn(int Column, string Source, ChannelRole Role, string Unit, double Confidence, IReadOnlyList<string> First);

/// <summary>The columns of a log, and what its header is known by.</summary>
public sealed record LogColumns(string HeaderFingerprint, IReadOnlyList<LogColumn> Columns)
{
    /// <summary>How many values of a column are shown.</summary>
    public const int FirstValues = 4;
}

using Remedos.Core.Comparison;
using Remedos.Core.Learning;
using Remedos.Data.Jobs;
using Remedos.Server.Jobs;

namespace Remedos.Server.Records;

/// <summary>What a change has moved, so that its totals are reckoned anew.</summary>
internal sealed class Moved
{
    public SortedSet<string> Series { get; } = new(StringComparer.Ordinal);

    public SortedSet<string> Coolers { get; } = new(StringComparer.Ordinal);

    public SortedSet<string> Acts { get; } = new(StringComparer.Ordinal);

    public HashSet<(FittedKind Kind, string Part)> Fitted { get; } = [];

    public HashSet<(TrialKind Kind, string One, string Other)> Trials { get; } = [];

    /// <summary>Machines, by serial number and by the tag they bear, of which finds moved: what was fitted in them may be back.</summary>
    public HashSet<(string? Serial, int? Tagged)> Found { get; } = [];

    /// <summary>Jobs of which it moved what was fitted.</summary>
    public HashSet<Guid> FittedIn { get; } = [];

    /// <summary>By how much the bench's sums move.</summary>
    public ShownScatter Scatter { get; set; } = ShownScatter.Nothing;

    /// <summary>By how much those of its led runs do.</summary>
    public LedRuns Led { get; set; }

    /// <summary>Whether every total is to be reckoned.</summary>
    public bool All { get; set; }

    /// <summary>Something that machines' pages take from elsewhere, but no total.</summary>
    public bool Elsewhere { get; init; }

    public bool Any =>
        Elsewhere
        || Series.Count + Coolers.Count + Acts.Count + Fitted.Count + Trials.Count > 0
        || Scatter != ShownScatter.Nothing
        || Led != default;
}

/// <summary>How a name is known in the records.</summary>
internal static class RecordKey
{
    public static string Of(string name) => LikeTrials.Plain(name);

    /// <summary>By which a machine is known that comes again; null where nobody noted it.</summary>
    public static string? OfSerial(Job job) => string.IsNullOrWhiteSpace(job.Serial) ? null : Of(job.Serial);
}

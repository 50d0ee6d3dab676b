namespace Remedos.Data.Queue;

/// <summary>
/// Something that is done in the background: one row each, gone once it is done. What fails is tried again later and later; what fails for
/// good is set aside and
/// told, and keeps nothing else waiting.
/// </summary>
public sealed class WorkItem : IOfWorkshop
{
    /// <summary>The kinds, the most urgent first.</summary>
    public const string WatchSilence = "watch-silence",
        LandRun = "land-run",
        ImportLog = "import-log",
        RereadRun = "reread-run",
        Relearn = "relearn";

    public static readonly IReadOnlyList<string> Kinds = [WatchSilence, LandRun, ImportLog, RereadRun, Relearn];

    public Guid Id { get; init; }

    public Guid WorkshopId { get; init; }

    /// <summary>Of <see cref="Kinds"/>.</summary>
    public required string Kind { get; init; }

    /// <summary>What it is about: an import, a run, a bay; the same thing waits only once.</summary>
    public Guid SubjectId { get; init; }

    /// <summary>JSON of what else the work needs; null for nothing.</summary>
    public string? Payload { get; init; }

    /// <summary>The lower, the sooner.</summary>
    public short Urgency { get; init; }

    /// <summary>How much there is to read, bytes; heavy work has one lane, light work both.</summary>
    public long Weight { get; init; }

    public DateTimeOffset CreatedAt { get; init; }

    public DateTimeOffset NotBefore { get; set; }

    /// <summary>Counted when it is taken, so that what kills the process is not taken for ever.</summary>
    public int Attempts { get; set; }

    /// <summary>Who has it in hand; null for nobody. Nobody else may end it.</summary>
    public Guid? LeaseOwner { get; set; }

    public DateTimeOffset? LeaseUntil { get; set; }

    /// <summary>As a sentence.</summary>
    public string? LastError { get; set; }

    /// <summary>It failed for good; null while it is tried.</summary>
    public DateTimeOffset? SetAsideAt { get; set; }
}

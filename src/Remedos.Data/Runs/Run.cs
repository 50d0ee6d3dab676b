using Remedos.Core.Runs;

namespace Remedos.Data.Runs;

/// <summary>A recorded run of a job, analysed; its samples stand in the chunk tables.</summary>
public sealed class Run : IOfWorkshop
{
    public Guid Id { get; init; }

    public Guid WorkshopId { get; init; }

    public Guid JobId { get; init; }

    public Guid LogFileId { get; init; }

    /// <summary>What it was measured on.</summary>
    public Guid MountId { get; set; }

    public DateTimeOffset ImportedAt { get; init; }

    /// <summary>Which part of the log is this run; null for all of it.</summary>
    public RunStretch? Stretch { get; init; }

    /// <summary>What somebody did or saw during the run.</summary>
    public IReadOnlyList<RunMark> Marks { get; set; } = [];

    /// <summary>Rows of the shared time base.</summary>
    public int Rows { get; set; }

    public required RunConditions Conditions { get; set; }

    public required RunAnalysis Analysis { get; set; }

    /// <summary>The reading that made the analysis; behind the present one, or 0, it is made anew in the background.</summary>
    public int AnalysisVersion { get; set; }

    /// <summary>Its original was not in the file store when it was wanted; what was read of it stands.</summary>
    public bool MissingOriginal { get; set; }

    /// <summary>Why it teaches the records nothing, in somebody's words; null while it does.</summary>
    public string? LeftOut { get; set; }

    /// <summary>Taken off the sheet, not deleted; null while it stands there.</summary>
    public DateTimeOffset? RemovedAt { get; set; }

    public uint Version { get; init; }
}

/// <summary>What a technician has said of the columns of a header, for every log that comes with it.</summary>
public sealed class RememberedRoles : IOfWorkshop
{
    public Guid WorkshopId { get; init; }

    /// <summary>Of the header; see the reader.</summary>
    public required string Fingerprint { get; init; }

    /// <summary>Role by column, as in docs/formats.md.</summary>
    public required IReadOnlyDictionary<int, string> Roles { get; set; }

    public DateTimeOffset ChangedAt { get; set; }
}

/// <summary>An uploaded original, kept byte for byte in the file store under its hash.</summary>
public sealed class LogFile : IOfWorkshop
{
    public Guid Id { get; init; }

    public Guid WorkshopId { get; init; }

    public required string Name { get; init; }

    public required string Sha256 { get; init; }

    public long Bytes { get; init; }

    /// <summary>The bay that led its run, by its number; null for a log that came otherwise.</summary>
    public int? Bay { get; init; }

    public DateTimeOffset StoredAt { get; init; }
}

/// <summary>An uploaded log on its way to a run, as the page shows it; the queue does it.</summary>
public sealed class Import : IOfWorkshop
{
    public const string Queued = "queued",
        Reading = "reading",
        Done = "done",
        Failed = "failed",
        Cancelled = "cancelled";

    public Guid Id { get; init; }

    public Guid WorkshopId { get; init; }

    public Guid JobId { get; init; }

    public Guid PersonId { get; init; }

    public Guid LogFileId { get; init; }

    /// <summary>Of the log: it is taken once.</summary>
    public required string Sha256 { get; init; }

    /// <summary>What it was measured on.</summary>
    public Guid MountId { get; init; }

    public required RunConditions Conditions { get; init; }

    /// <summary>What its run begins with.</summary>
    public IReadOnlyList<RunMark> Marks { get; init; } = [];

    public required string State { get; set; }

    public long BytesRead { get; set; }

    /// <summary>Why it failed, as a sentence.</summary>
    public string? Problem { get; set; }

    /// <summary>The reader's code of it; null when the failure is not the file's.</summary>
    public string? ProblemCode { get; set; }

    public Guid? RunId { get; set; }

    public bool CancelRequested { get; set; }

    public DateTimeOffset CreatedAt { get; init; }
}

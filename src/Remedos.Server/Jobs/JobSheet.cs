using Remedos.Core.Comparison;
using Remedos.Core.Handover;
using Remedos.Core.HeatPath;
using Remedos.Core.Jobs;
using Remedos.Core.Runs;
using Remedos.Data.Runs;

namespace Remedos.Server.Jobs;

/// <summary>A run on the sheet.</summary>
/// <param name="Stretch">Which part of the file it is; null for all of it.</param>
/// <param name="AlsoOn">Tags of other jobs that hold the same file.</param>
/// <param name="MissingOriginal">Whether its original was not in the file store when it was wanted.</param>
public sealed record RunAnswer(
    Guid Id, string Side, string FileName, long FileBytes, DateTimeOffset ImportedAt, uint Version, RunConditions Conditions, RunAnalysis Analysis, string Finding,
    RunStretch? Stretch, IReadOnlyList<RunMark> Marks, IReadOnlyList<string> AlsoOn, bool MissingOriginal);

/// <summary>A log on its way to a run, or one that did not become one.</summary>
/// <param name="ColumnsHelp">Whether it failed for want of a column, so that the column desk can help.</param>
public sealed record ImportAnswer(Guid Id, string Side, string FileName, string State, long BytesRead, long BytesTotal, string? Problem, bool ColumnsHelp)
{
    /// <summary>Problems of the reader that a role said by hand can mend.</summary>
    internal static readonly string?[] CodesOfColumns = ["no-temperature", "no-time", "time-stands-still"];
}

/// <summary>A picture on a job.</summary>
/// <param name="Kind">photo, or proof for a proof of purchase.</param>
public sealed record PhotoAnswer(Guid Id, string Kind, string Name, DateTimeOffset AddedAt);

/// <summary>Where the warranty stands.</summary>
/// <param name="DaysLeft">0 or less when it has run out; null when it is not known.</param>
public sealed record WarrantyAnswer(int? DaysLeft, string? Sentence);

/// <summary>An earlier job of the same machine, or of the same owner.</summary>
/// <param name="SameMachine">Whether the serial number is the same.</param>
public sealed record EarlierJob(Guid Id, string Tag, DateTimeOffset CreatedAt, string? Machine, bool SameMachine, string? Found, string? Done, IReadOnlyList<string> Causes, DateTimeOffset? HandedOverAt);

/// <summary>The last change that stands, which undo would take back.</summary>
/// <param name="Words">What was changed, in the middle of a sentence.</param>
/// <param name="Mine">Whether the caller made it; another person's is taken back only after a question.</param>
public sealed record LastChange(long EventId, string Words, string Person, bool Mine, DateTimeOffset At);

/// <summary>A verdict with its sentence.</summary>
public sealed record VerdictAnswer(ComparisonResult Result, string Lead, string Claim, string Rest);

/// <summary>One machine, whole: everything that the job sheet shows.</summary>
/// <param name="Observed">What hands and eyes have told, by the observation's id; with a question mark behind a doubtful one.</param>
/// <param name="LastEventId">Counts up with every change of the job.</param>
public sealed record JobSheet(
    Guid Id, string Tag, uint Version, DateTimeOffset CreatedAt, JobFieldValues Fields, IReadOnlyDictionary<string, string> Observed,
    IReadOnlyList<RunAnswer> Runs, IReadOnlyList<ImportAnswer> Imports, VerdictAnswer? Verdict,
    IReadOnlyList<JobStep> Steps, string CurrentStep, Headline Headline, NowCard Now, string WaitsFor, OwnerPage OwnerPage, LastChange? LastChange, long LastEventId,
    IReadOnlyList<PhotoAnswer> Photos, WarrantyAnswer Warranty, IReadOnlyList<EarlierJob> Earlier)
{
    public static RunAnswer RunOf(Run run, LogFile file, IReadOnlyList<string> alsoOn) =>
        new(run.Id, run.Side, file.Name, file.Bytes, run.ImportedAt, run.Version, run.Conditions, run.Analysis, RunWords.Finding(run.Analysis, run.Conditions), run.Stretch, run.Marks, alsoOn, run.MissingOriginal);
}

/// <summary>A machine as a tag in the list.</summary>
public sealed record JobTag(Guid Id, string Tag, string? Owner, string? Machine, string? Noticed, string WaitsFor, Headline Headline, string NowTitle, DateTimeOffset ChangedAt, HeatStaircase? Staircase, double? LimitC);

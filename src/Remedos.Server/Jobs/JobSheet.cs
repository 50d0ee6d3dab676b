using Remedos.Core.Comparison;
using Remedos.Core.Handover;
using Remedos.Core.HeatPath;
using Remedos.Core.Jobs;
using Remedos.Core.Runs;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;

namespace Remedos.Server.Jobs;

/// <summary>A job's fields as a page shows and saves them; names as in <see cref="JobFields"/>.</summary>
public sealed record JobFieldValues(
    string? Owner, string? Contact, string? Machine, string? Serial, string? Noticed, double? RoomC, double? TemperatureLimitC, double? RatedPowerW, string? CoolerKind, string? WaitingFor,
    string? RepairFound, string? RepairDone, string? RepairParts, int? RepairMinutes, string? RepairPaste, string? RepairPasteMethod, string? RepairCoolerKind,
    DateTimeOffset? MountedAt, DateTimeOffset? HandedOverAt, DateOnly? RecheckOn, DateOnly? BuiltOn, string? Origin, string? Setting,
    string? Processor, string? Board, string? Memory, double? MemoryHeightMm, string? Graphics, string? Case, string? Cooler, string? Fans, string? FansSteeredBy,
    DateOnly? PurchasedOn, int? WarrantyMonths, string? WarrantyEndedBy, string? WarrantyRoute, string? DoneBefore, string? LastDone, double? TubeOneC, double? TubeOtherC, IReadOnlyList<string> RepairCauses, string? DecisionRoute, string? RepairCooler)
{
    public static JobFieldValues Of(Job job) => new(
        job.Owner, job.Contact, job.Machine, job.Serial, job.Noticed, job.RoomC, job.TemperatureLimitC, job.RatedPowerW, job.CoolerKind, job.WaitingFor,
        job.Repair.Found, job.Repair.Done, job.Repair.Parts, job.Repair.Minutes, job.Repair.Paste, job.Repair.PasteMethod, job.Repair.CoolerKind,
        job.Repair.MountedAt, job.HandedOverAt, job.RecheckOn, job.BuiltOn, job.Origin, job.Setting,
        job.Parts.Processor, job.Parts.Board, job.Parts.Memory, job.Parts.MemoryHeightMm, job.Parts.Graphics, job.Parts.Case, job.Parts.Cooler, job.Parts.Fans, job.Parts.FansSteeredBy,
        job.Warranty.PurchasedOn, job.Warranty.Months, job.Warranty.EndedBy, job.Warranty.Route, job.DoneBefore, job.LastDone, job.TubeOneC, job.TubeOtherC, job.Repair.Causes, job.DecisionRoute, job.Repair.Cooler);
}

/// <summary>A run on the sheet.</summary>
/// <param name="Stretch">Which part of the file it is; null for all of it.</param>
/// <param name="AlsoOn">Tags of other jobs that hold the same file.</param>
public sealed record RunAnswer(
    Guid Id, string Side, string FileName, long FileBytes, DateTimeOffset ImportedAt, uint Version, RunConditions Conditions, RunAnalysis Analysis, string Finding,
    RunStretch? Stretch, IReadOnlyList<RunMark> Marks, IReadOnlyList<string> AlsoOn);

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

/// <summary>The last change, which undo would take back.</summary>
public sealed record LastChange(long EventId, string Kind, string? Subject, string Person, DateTimeOffset At);

/// <summary>A verdict with its sentence.</summary>
public sealed record VerdictAnswer(ComparisonResult Result, string Lead, string Claim, string Rest);

/// <summary>One machine, whole: everything that the job sheet shows.</summary>
public sealed record JobSheet(
    Guid Id, string Tag, uint Version, DateTimeOffset CreatedAt, JobFieldValues Fields,
    IReadOnlyList<RunAnswer> Runs, IReadOnlyList<ImportAnswer> Imports, VerdictAnswer? Verdict,
    IReadOnlyList<JobStep> Steps, string CurrentStep, Headline Headline, NowCard Now, string WaitsFor, OwnerPage OwnerPage, LastChange? LastChange,
    IReadOnlyList<PhotoAnswer> Photos, WarrantyAnswer Warranty, IReadOnlyList<EarlierJob> Earlier)
{
    public static RunAnswer RunOf(Run run, LogFile file, IReadOnlyList<string> alsoOn) =>
        new(run.Id, run.Side, file.Name, file.Bytes, run.ImportedAt, run.Version, run.Conditions, run.Analysis, RunWords.Finding(run.Analysis, run.Conditions), run.Stretch, run.Marks, alsoOn);
}

/// <summary>A machine as a tag in the list.</summary>
public sealed record JobTag(Guid Id, string Tag, string? Owner, string? Machine, string? Noticed, string WaitsFor, Headline Headline, string NowTitle, DateTimeOffset ChangedAt, HeatStaircase? Staircase, double? LimitC);

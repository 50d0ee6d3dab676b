using Remedos.Core.Comparison;
using Remedos.Core.Handover;
using Remedos.Core.Jobs;
using Remedos.Core.Runs;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Repair;

namespace Remedos.Server.Jobs;

/// <summary>A run on the sheet.</summary>
/// <param name="Setup">Number of the setup that it was measured on.</param>
/// <param name="Mount">Number of the mount in that setup.</param>
/// <param name="Unknown">Conditions that nobody stated and the log does not tell, by their names in the conditions.</param>
/// <param name="Stretch">Which part of the file it is; null for all of it.</param>
/// <param name="AlsoOn">Tags of other jobs that hold the same file.</param>
/// <param name="MissingOriginal">Whether its original was not in the file store when it was wanted.</param>
public sealed record RunAnswer(
    Guid Id,
    Guid MountId,
    int Setup,
    int Mount,
    string FileName,
    long FileBytes,
    DateTimeOffset ImportedAt,
    uint Version,
    RunConditions Conditions,
    RunAnalysis Analysis,
    string Finding,
    string? CardFinding,
    IReadOnlyList<string> Unknown,
    RunStretch? Stretch,
    IReadOnlyList<RunMark> Marks,
    IReadOnlyList<string> AlsoOn,
    bool MissingOriginal,
    string? LeftOut
);

/// <summary>A setup on the sheet: what was changed, what it is in all, and the times that its cooler was put on.</summary>
/// <param name="Name">“Setup 3 Corvane Ridge 2”.</param>
/// <param name="Title">What was changed, in words.</param>
/// <param name="Like">The setup that it is like but for its difference; null for the first.</param>
/// <param name="Current">Whether it is what is on the machine now.</param>
/// <param name="Values">Its own fields, by name: the difference.</param>
/// <param name="Whole">All that it is, with what it has from the setups that it is like.</param>
public sealed record SetupAnswer(
    Guid Id,
    int Number,
    string Name,
    string Title,
    int Round,
    string Kind,
    int? Like,
    bool Current,
    string? FailedWhy,
    IReadOnlyDictionary<string, object?> Values,
    SetupDifference Whole,
    IReadOnlyList<MountAnswer> Mounts
);

/// <summary>One time that the cooler was put on.</summary>
/// <param name="Settling">How its paste settled, where it was run alike over days; null otherwise.</param>
/// <param name="Values">Its fields, by name.</param>
public sealed record MountAnswer(
    Guid Id,
    int Number,
    DateTimeOffset? MountedAt,
    int Runs,
    PasteSettling? Settling,
    IReadOnlyDictionary<string, object?> Values
);

/// <summary>What is held against what, and what could be instead.</summary>
/// <param name="Reference">Number of the setup that is held against.</param>
/// <param name="Compared">Number of the setup that is judged; null while none has a run.</param>
/// <param name="Words">“Setup 1 as it came · Setup 3 Corvane Ridge 2”.</param>
/// <param name="Load">Of all these runs; null where nobody noted it.</param>
/// <param name="Subject">processor or graphics.</param>
/// <param name="Before">Runs of the reference that count, by id.</param>
/// <param name="After">Runs of the compared setup that count, by id.</param>
public sealed record PairAnswer(
    int Reference,
    int? Compared,
    string Words,
    string? Load,
    IReadOnlyList<string?> Loads,
    string Subject,
    IReadOnlyList<string> Subjects,
    IReadOnlyList<Guid> Before,
    IReadOnlyList<Guid> After
);

/// <summary>Another load of the pair, in a line.</summary>
public sealed record LoadLineAnswer(string? Load, Verdict Verdict, string Sentence);

/// <summary>A round that is over.</summary>
/// <param name="Why">Why it did not end the job.</param>
public sealed record RoundAnswer(
    int Number,
    string Reason,
    string Why,
    string? Found,
    string? Done,
    IReadOnlyList<string> Causes,
    string? Verdict,
    DateTimeOffset ClosedAt
);

/// <summary>A log on its way to a run, or one that did not become one.</summary>
/// <param name="ColumnsHelp">Whether it failed for want of a column, so that the column desk can help.</param>
public sealed record ImportAnswer(
    Guid Id,
    Guid MountId,
    string FileName,
    string State,
    long BytesRead,
    long BytesTotal,
    string? Problem,
    bool ColumnsHelp
)
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
/// <param name="Since">Of the latest of them: how it does now against how it left, in a sentence; null without runs of both.</param>
public sealed record EarlierJob(
    Guid Id,
    string Tag,
    DateTimeOffset CreatedAt,
    string? Machine,
    bool SameMachine,
    string? Found,
    string? Done,
    IReadOnlyList<string> Causes,
    DateTimeOffset? HandedOverAt,
    string? Since = null
);

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
    Guid Id,
    string Tag,
    uint Version,
    DateTimeOffset CreatedAt,
    JobFieldValues Fields,
    IReadOnlyDictionary<string, string> Observed,
    int Round,
    IReadOnlyList<RoundAnswer> Rounds,
    IReadOnlyList<SetupAnswer> Setups,
    PairAnswer Pair,
    IReadOnlyList<RunAnswer> Runs,
    IReadOnlyList<ImportAnswer> Imports,
    VerdictAnswer? Verdict,
    IReadOnlyList<LoadLineAnswer> OtherLoads,
    SeriesResult? Series,
    IReadOnlyList<JobStep> Steps,
    string CurrentStep,
    Headline Headline,
    NowCard Now,
    WaitsFor WaitsFor,
    OwnerPage OwnerPage,
    LastChange? LastChange,
    long LastEventId,
    IReadOnlyList<PhotoAnswer> Photos,
    WarrantyAnswer Warranty,
    IReadOnlyList<EarlierJob> Earlier,
    PlanSummary? Plan
)
{
    /// <summary>A run as the sheet shows it, its heat path as the whole sheet sees it.</summary>
    internal static RunAnswer RunOf(Job job, Run run, HeatStaircase? staircase, LogFile file, IReadOnlyList<string> alsoOn)
    {
        (Setup Setup, Mount Mount)? on = JobSetups.OfMount(job, run.MountId);
        return new(
            run.Id,
            run.MountId,
            on?.Setup.Number ?? 1,
            on?.Mount.Number ?? 1,
            file.Name,
            file.Bytes,
            run.ImportedAt,
            run.Version,
            run.Conditions,
            RunWords.Told(run.Analysis, run.Conditions) with
            {
                Staircase = staircase,
            },
            RunWords.Finding(run.Analysis, run.Conditions),
            run.Analysis.Graphics is { } card ? RunWords.CardFinding(card) : null,
            UnknownConditions.Of(run.Conditions, run.Analysis),
            run.Stretch,
            run.Marks,
            alsoOn,
            run.MissingOriginal,
            run.LeftOut
        );
    }
}

/// <summary>A machine as a tag in the list.</summary>
public sealed record JobTag(
    Guid Id,
    string Tag,
    string? Owner,
    string? Machine,
    string? Noticed,
    WaitsFor WaitsFor,
    Headline Headline,
    string NowTitle,
    DateTimeOffset ChangedAt,
    HeatStaircase? Staircase,
    double? LimitC
);

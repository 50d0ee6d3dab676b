using Remedos.Core.Diagnosis;
using Remedos.Core.Jobs;

namespace Remedos.Server.Diagnosis;

/// <summary>What is wrong with a job's machine, how sure, and what to check next, in words.</summary>
/// <param name="Observations">All that can be observed here, with what was; in the order to be asked.</param>
/// <param name="Conclusion">The leading cause in a line.</param>
/// <param name="Sure">Whether the leading cause is probable enough to act on it.</param>
/// <param name="Notes">What the odds began from besides the tables.</param>
/// <param name="Tubes">What the thermometer's readings on the tubes mean; null without them.</param>
public sealed record JobDiagnosis(
    string Conclusion,
    bool Sure,
    double NothingWrong,
    IReadOnlyList<JobCause> Causes,
    IReadOnlyList<JobCheck> Checks,
    IReadOnlyList<string> Warnings,
    IReadOnlyList<string> Notes,
    string? Tubes,
    IReadOnlyList<JobObservation> Observations
)
{
    public static JobDiagnosis Of(JobCase asked, DiagnosisAnswer answer, Warranty warranty, DateOnly today)
    {
        IReadOnlyList<EvidenceItem> evidence = asked.Case.Evidence;
        DiagnosisStand stand = DiagnosisStand.Of(answer);
        return new JobDiagnosis(
            evidence.Count == 0 ? "Nothing observed yet." : stand.Conclusion,
            evidence.Count > 0 && stand.IsSure,
            answer.NothingWrong,
            [.. answer.Causes.Select(cause => JobCause.Of(cause, warranty.AskFirst(DiagnosisTables.CauseOf(cause.Id), today)))],
            [.. answer.NextChecks.Where(check => check.ExpectedInformationBits >= DiagnosisStand.WorthBits).Select(JobCheck.Of)],
            [.. answer.Warnings.Select(warning => warning.Message)],
            [.. answer.Notes, .. asked.HeldAgainst is { } note ? [note] : Array.Empty<string>()],
            asked.Tubes?.Sentence,
            ObservedOf(asked)
        );
    }

    /// <summary>What was observed, without a word on what it means; why it is silent stands among the notes.</summary>
    public static JobDiagnosis Silent(JobCase asked, string why) => new(why, false, 0, [], [], [], [why], null, ObservedOf(asked));

    private static IReadOnlyList<JobObservation> ObservedOf(JobCase asked) =>
        [
            .. DiagnosisTables
                .Evidence.Where(row => row.IsOf(asked.Case.Machine.CoolerKind))
                .Select(row =>
                    JobObservation.Of(row, asked.Case.Evidence.FirstOrDefault(item => item.Id == row.Id), asked.ReadOff.Contains(row.Id))
                ),
        ];

    internal static string Words(string state) => state.Replace('-', ' ');
}

/// <summary>A rung of the ladder of causes.</summary>
/// <param name="Shared">What it shows as other causes do, which therefore moves it little.</param>
/// <param name="Warranty">Why the owner should be asked for a claim before its repair; null when there is nothing to ask.</param>
public sealed record JobCause(
    string Id,
    string Title,
    double Probability,
    string Repair,
    string? Warranty,
    IReadOnlyList<JobReason> For,
    IReadOnlyList<JobReason> Shared,
    IReadOnlyList<JobReason> Against
)
{
    private const int MostReasons = 4;

    public static JobCause Of(CauseAnswer cause, string? warranty)
    {
        CauseRow row = DiagnosisTables.CauseOf(cause.Id);
        JobReason[] Words(IEnumerable<EvidenceWeight> reasons) =>
            [
                .. reasons
                    .Take(MostReasons)
                    .Select(reason => new JobReason(
                        $"{DiagnosisTables.EvidenceOf(reason.Evidence)!.Title}: {JobDiagnosis.Words(reason.State)}.",
                        reason.Because
                    )),
            ];
        return new JobCause(
            cause.Id,
            row.Title,
            cause.Probability,
            row.RepairTitle,
            warranty,
            Words(cause.Reasons.Where(reason => reason.Bits > 0)),
            Words(cause.Shared),
            Words(cause.Reasons.Where(reason => reason.Bits < 0))
        );
    }
}

/// <summary>Something observed, and what the cause has to do with it; null when it has nothing to do with it directly.</summary>
public sealed record JobReason(string Observed, string? Because);

/// <summary>A check that is still open, and what each answer would make of it.</summary>
/// <param name="Order">A trial as one is told to make it; null for what is asked, looked at or measured.</param>
/// <param name="Title">What is observed.</param>
/// <param name="Variant">The guided run that makes it; null when it is done by eye or hand.</param>
public sealed record JobCheck(
    string Id,
    string? Order,
    string Title,
    string How,
    string? Caution,
    double Minutes,
    double Bits,
    bool Reversible,
    bool KeepsWarranty,
    string? Variant,
    IReadOnlyList<JobOutcome> Outcomes
)
{
    public static JobCheck Of(NextCheck check)
    {
        EvidenceRow row = DiagnosisTables.EvidenceOf(check.Evidence)!;
        return new JobCheck(
            row.Id,
            row.Order,
            row.Title,
            row.How,
            row.Caution,
            row.Minutes,
            check.ExpectedInformationBits,
            row.Reversible,
            row.KeepsWarranty,
            row.Variant,
            [
                .. check.Outcomes.Select(outcome => new JobOutcome(
                    outcome.State,
                    JobDiagnosis.Words(outcome.State),
                    outcome.Probability,
                    DiagnosisTables.CauseOf(outcome.Leads).Title,
                    outcome.LeadProbability
                )),
            ]
        );
    }
}

/// <summary>An answer that may come, how probable it is, and what would lead then.</summary>
public sealed record JobOutcome(string State, string Words, double Probability, string Leads, double LeadProbability);

/// <summary>Something that can be observed.</summary>
/// <param name="State">What was; null when it was not.</param>
/// <param name="OffRuns">Whether a run or a thermometer told it, and no hand has overruled it.</param>
/// <param name="Untouched">Whether it is looked at before anything is moved.</param>
public sealed record JobObservation(
    string Id,
    string Title,
    string Kind,
    string How,
    string? Caution,
    IReadOnlyList<JobState> States,
    string? State,
    bool Doubtful,
    bool OffRuns,
    bool Untouched
)
{
    public static JobObservation Of(EvidenceRow row, EvidenceItem? item, bool offRuns) =>
        new(
            row.Id,
            row.Title,
            row.Kind,
            row.How,
            row.Caution,
            [.. row.States.Select(state => new JobState(state, JobDiagnosis.Words(state)))],
            item?.State,
            item?.Doubtful == true,
            offRuns && item is not null,
            row.Untouched
        );
}

public sealed record JobState(string Id, string Words);

using Remedos.Core.Diagnosis;

namespace Remedos.Server.Diagnosis;

/// <summary>What is wrong with a job's machine, how sure, and what to check next, in words.</summary>
/// <param name="Observations">All that can be observed here, with what was; in the order to be asked.</param>
/// <param name="Conclusion">The leading cause in a line.</param>
/// <param name="Sure">Whether the leading cause is probable enough to act on it.</param>
public sealed record JobDiagnosis(
    string Conclusion, bool Sure, double NothingWrong, IReadOnlyList<JobCause> Causes, IReadOnlyList<JobCheck> Checks, IReadOnlyList<string> Warnings, IReadOnlyList<JobObservation> Observations)
{
    private const double SureAt = 0.8, WorthBits = 0.03;

    /// <summary>Runs that a guided run can make for a check.</summary>
    private static readonly Dictionary<string, string> Variants = new(StringComparer.Ordinal)
    {
        ["panel-off-drop"] = "panel-off",
        ["fans-full-drop"] = "fans-full",
        ["capped-power"] = "capped-power",
        ["pump-full-speed"] = "pump-full",
    };

    public static JobDiagnosis Of(DiagnosisCase asked, IReadOnlySet<string> offRuns)
    {
        DiagnosisAnswer answer = Diagnoser.Of(asked);
        JobCause[] causes = [.. answer.Causes.Select(JobCause.Of)];
        bool nothing = asked.Evidence.Count == 0;
        return new JobDiagnosis(
            nothing ? "Nothing observed yet." : $"{causes[0].Title}: {100 * causes[0].Probability:0} %",
            !nothing && causes[0].Probability >= SureAt,
            answer.NothingWrong,
            causes,
            [.. answer.NextChecks.Where(check => check.ExpectedInformationBits >= WorthBits).Select(check => JobCheck.Of(check, Variants.GetValueOrDefault(check.Evidence)))],
            [.. answer.Warnings.Select(warning => warning.Message)],
            [.. DiagnosisTables.Evidence.Where(row => row.Needs is null || asked.Machine.CoolerKind is null or "liquid").Select(row => JobObservation.Of(row, asked.Evidence.FirstOrDefault(item => item.Id == row.Id), offRuns.Contains(row.Id)))]);
    }

    internal static string Words(string state) => state.Replace('-', ' ');
}

/// <summary>A rung of the ladder of causes.</summary>
public sealed record JobCause(string Id, string Title, double Probability, string Repair, IReadOnlyList<JobReason> For, IReadOnlyList<JobReason> Against)
{
    private const int MostReasons = 4;

    public static JobCause Of(CauseAnswer cause)
    {
        CauseRow row = DiagnosisTables.Causes.Single(one => one.Id == cause.Id);
        JobReason[] Reasons(bool speaksFor) => [.. cause.Reasons.Where(reason => reason.Bits > 0 == speaksFor).Take(MostReasons).Select(reason => new JobReason($"{DiagnosisTables.EvidenceOf(reason.Evidence)!.Title}: {JobDiagnosis.Words(reason.State)}.", reason.Because))];
        return new JobCause(cause.Id, row.Title, cause.Probability, row.RepairTitle, Reasons(true), Reasons(false));
    }
}

/// <summary>Something observed, and what the cause has to do with it; null when it has nothing to do with it directly.</summary>
public sealed record JobReason(string Observed, string? Because);

/// <summary>A check that is still open, and what each answer would make of it.</summary>
/// <param name="Variant">The guided run that makes it; null when it is done by eye or hand.</param>
public sealed record JobCheck(string Id, string Title, string How, string? Caution, double Minutes, double Bits, bool Reversible, bool KeepsWarranty, string? Variant, IReadOnlyList<JobOutcome> Outcomes)
{
    public static JobCheck Of(NextCheck check, string? variant)
    {
        EvidenceRow row = DiagnosisTables.EvidenceOf(check.Evidence)!;
        return new JobCheck(row.Id, row.Title, row.How, row.Caution, row.Minutes, check.ExpectedInformationBits, row.Reversible, row.KeepsWarranty, variant,
            [.. check.Outcomes.Select(outcome => new JobOutcome(outcome.State, JobDiagnosis.Words(outcome.State), outcome.Probability, DiagnosisTables.Causes.Single(cause => cause.Id == outcome.Leads).Title, outcome.LeadProbability))]);
    }
}

/// <summary>An answer that may come, how probable it is, and what would lead then.</summary>
public sealed record JobOutcome(string State, string Words, double Probability, string Leads, double LeadProbability);

/// <summary>Something that can be observed.</summary>
/// <param name="State">What was; null when it was not.</param>
/// <param name="OffRuns">Whether a run told it, and no hand has overruled it.</param>
public sealed record JobObservation(string Id, string Title, string Kind, string How, string? Caution, IReadOnlyList<JobState> States, string? State, bool Doubtful, bool OffRuns)
{
    public static JobObservation Of(EvidenceRow row, EvidenceItem? item, bool offRuns) =>
        new(row.Id, row.Title, row.Kind, row.How, row.Caution, [.. row.States.Select(state => new JobState(state, JobDiagnosis.Words(state)))], item?.State, item?.Doubtful == true, offRuns && item is not null);
}

public sealed record JobState(string Id, string Words);

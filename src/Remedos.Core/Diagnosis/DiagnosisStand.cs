using Remedos.Core.Runs;

namespace Remedos.Core.Diagnosis;

/// <summary>
/// Where a diagnosis stands, decided once for every page: which repair leads and by which cause, or that nothing is wrong; whether that is
/// sure; and the check that would tell most.
/// </summary>
/// <param name="Lead">The leading cause; null where nothing wrong leads.</param>
/// <param name="Title">Its name, with the other cause of the same act where that is nearly as probable; or that nothing was found.</param>
/// <param name="Probability">That this repair is needed, or that nothing is wrong.</param>
/// <param name="Check">Null when none that is left is worth its minutes.</param>
/// <param name="CheckBits">What the check, and all that comes with it, is expected to tell; 0 without one.</param>
/// <param name="ByKind">Whether only the kind of its cooler is known: a fault is then named once it is almost certain, and that nothing is
/// wrong once it is likely.</param>
public sealed record DiagnosisStand(
    CauseRow? Lead,
    string Title,
    double Probability,
    EvidenceRow? Check,
    double CheckBits,
    bool ByKind = false
)
{
    /// <summary>The headline of a machine in which no fault was found.</summary>
    public const string Sound = "Nothing is wrong with it";

    /// <summary>A check that tells less is not worth a hand.</summary>
    public const double WorthBits = 0.03;

    private const double SureAt = 0.8,
        TellsMuchBits = 0.12;

    private const double CertainAt = 0.9,
        LikelyAt = 0.7,
        PossibleAt = 0.4;

    /// <summary>Another cause of the same act is named beside the first from this share of it on.</summary>
    private const double NamedShare = 0.33;

    /// <summary>How a diagnosis stands.</summary>
    public static DiagnosisStand Of(DiagnosisAnswer answer)
    {
        NextCheck? next = answer.NextChecks.FirstOrDefault(check => check.ExpectedInformationBits >= WorthBits);
        EvidenceRow? check = next is null ? null : DiagnosisTables.EvidenceOf(next.Evidence);
        RepairAnswer act = answer.Repairs[0];
        if (answer.NothingWrong > act.Probability)
        {
            return new DiagnosisStand(null, Sound, answer.NothingWrong, check, next?.ExpectedInformationBits ?? 0, answer.ByKind);
        }

        CauseAnswer[] causes = [.. answer.Causes.Where(cause => DiagnosisTables.CauseOf(cause.Id).Repair == act.Id)];
        string title = DiagnosisTables.CauseOf(causes[0].Id).Title;
        if (causes.Length > 1 && causes[1].Probability > NamedShare * causes[0].Probability)
        {
            string other = DiagnosisTables.CauseOf(causes[1].Id).Title;
            title = $"{title}, or {char.ToLowerInvariant(other[0])}{other[1..]}";
        }

        CauseRow lead = DiagnosisTables.CauseOf(causes[0].Id);
        return new DiagnosisStand(lead, title, act.Probability, check, next?.ExpectedInformationBits ?? 0, answer.ByKind);
    }

    /// <summary>A run's stairs beside it: one page tells one story, so no step is called stuck where no fault is named for it.</summary>
    public HeatStaircase Beside(HeatStaircase stairs) =>
        this is { IsSound: true, IsSure: true } ? stairs.Overruled("all else together speaks for a sound machine.")
        : ByKind && Certainty is null ? stairs.Overruled("that is of any of its kind, and its own parts would tell whether it is too much.")
        : stairs;

    /// <summary>How probable, in words: nothing is ever certain.</summary>
    public string Percent => Probability > 0.99 ? "over 99 %" : $"{100 * Probability:0} %";

    /// <summary>Where it stands, in a line.</summary>
    public string Conclusion =>
        Certainty is not null ? $"{Title}: {Percent}"
        : ByKind && Probability >= PossibleAt ? "Too early to name a cause: it is held against any of its kind."
        : "Too early to name a cause.";

    /// <summary>Whether nothing wrong leads.</summary>
    public bool IsSound => Lead is null;

    /// <summary>
    /// Probable enough to act on it, and no check is left that would tell much. A repair shows by itself whether it was the right one;
    /// that nothing is wrong does not, so it is not said while any check is worth a hand.
    /// </summary>
    public bool IsSure =>
        Probability >= CertainAt || (Probability >= SureAt && CheckBits < (IsSound ? WorthBits : TellsMuchBits) && !IsUnnamed);

    /// <summary>
    /// What is held against any of its kind: of faults that are four in five, a large cooler with dust and a small clean one are too many
    /// to tell an owner; and that nothing is wrong is not said before it is likely.
    /// </summary>
    private bool IsUnnamed => ByKind && Probability < (IsSound ? LikelyAt : CertainAt);

    /// <summary>How sure, in a word that begins a sentence; null when it is too early to name a cause.</summary>
    public string? Certainty =>
        IsUnnamed ? null
        : Probability >= CertainAt ? "Almost certainly"
        : Probability >= LikelyAt ? "Likely"
        : Probability >= PossibleAt ? "Perhaps"
        : null;
}

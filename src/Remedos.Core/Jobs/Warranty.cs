using Remedos.Core.Diagnosis;

namespace Remedos.Core.Jobs;

/// <summary>A maker's or seller's warranty on a machine, as the intake has it.</summary>
/// <param name="PurchasedOn">Null when unknown.</param>
/// <param name="Months">Its term; null when unknown.</param>
/// <param name="HasProof">Whether a picture of the proof of purchase is kept.</param>
/// <param name="EndedBy">What ends it early, of <see cref="Enders"/>; null when nobody has looked it up.</param>
/// <param name="Route">What the owner chose, <see cref="Claim"/> or <see cref="Here"/>; null when not asked yet.</param>
public sealed record Warranty(DateOnly? PurchasedOn, int? Months, bool HasProof, string? EndedBy, string? Route)
{
    /// <summary>What the owner can choose while it runs.</summary>
    public const string Claim = "claim",
        Here = "here";

    /// <summary>What can end a warranty: the case opened, the cooler taken off, or neither.</summary>
    public static readonly string[] Enders = [CauseRow.Case, CauseRow.Cooler, CauseRow.Nothing];

    /// <summary>Both of them.</summary>
    public static readonly string[] Routes = [Claim, Here];

    /// <summary>The last day; null when date or term is not known.</summary>
    public DateOnly? EndsOn => Months is { } months ? PurchasedOn?.AddMonths(months) : null;

    /// <summary>Days that are left, the last one counted; 0 or less when it has run out, null when it is not known.</summary>
    public int? DaysLeft(DateOnly today) => EndsOn is { } end ? end.DayNumber - today.DayNumber + 1 : null;

    /// <summary>Whether it still runs on a day.</summary>
    public bool Runs(DateOnly today) => DaysLeft(today) > 0;

    /// <summary>Where it stands, as a sentence; null when nothing is known of it.</summary>
    public string? Sentence(DateOnly today) =>
        DaysLeft(today) switch
        {
            null => PurchasedOn is null && Months is null ? null : "The warranty cannot be told without the date of purchase and its term.",
            <= 0 => $"The warranty ran out on {EndsOn:d MMMM yyyy}.",
            { } days => $"{days} {(days == 1 ? "day is" : "days are")} left of the warranty, until {EndsOn:d MMMM yyyy}. "
                + (HasProof ? "The proof of purchase is kept here." : "No proof of purchase is kept here yet: take a picture of it.")
                + $" {EndedWords}",
        };

    private string EndedWords =>
        EndedBy switch
        {
            CauseRow.Nothing => "Opening it does not end it.",
            CauseRow.Case => "It ends when the case is opened.",
            CauseRow.Cooler => "It ends when the cooler is taken off.",
            _ => "What ends it is not known: ask before the case is opened.",
        };

    /// <summary>Whether work that opens so much would end it; where nobody has looked it up, it might.</summary>
    public bool IsEndedBy(string opens) =>
        opens switch
        {
            CauseRow.Nothing => false,
            CauseRow.Case => EndedBy is null or CauseRow.Case,
            _ => EndedBy is not CauseRow.Nothing,
        };

    /// <summary>Why the owner should be asked for a claim before a repair, as a sentence; null when there is nothing to ask.</summary>
    public string? AskFirst(CauseRow cause, DateOnly today)
    {
        if (!Runs(today) || Route is not null)
        {
            return null;
        }

        string left = $"{DaysLeft(today)} {(DaysLeft(today) == 1 ? "day is" : "days are")} left of the warranty. ",
            proof = HasProof ? "" : " Ask for the proof of purchase as well.";
        return cause.MakersPart ? $"{left}A part has failed, and that is for its maker to put right.{proof}"
            : IsEndedBy(cause.Opens) ? $"{left}“{cause.RepairTitle}” {(EndedBy is null ? "may end" : "ends")} it.{proof}"
            : null;
    }
}

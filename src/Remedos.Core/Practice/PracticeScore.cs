using System.Text.Json.Serialization;
using Remedos.Core.Diagnosis;
using Remedos.Core.Money;

namespace Remedos.Core.Practice;

/// <summary>What a trainee says to the owner at the end.</summary>
[JsonConverter(typeof(KebabEnum<Told>))]
public enum Told
{
    /// <summary>Nothing was wrong with it.</summary>
    Sound,

    /// <summary>It is mended.</summary>
    Mended,

    /// <summary>It is better, and not all of it is found.</summary>
    Better,

    /// <summary>It is not mended yet.</summary>
    NotYet,
}

/// <summary>What is true, and what is told.</summary>
public static class ToldOwner
{
    /// <summary>What is true of a case that is left so.</summary>
    public static Told Truth(PracticeCase practice, PracticeStand stand) =>
        practice.Faults.Count == 0 ? Told.Sound
        : stand.Left(practice).Count is var left && left == 0 ? Told.Mended
        : left < practice.Faults.Count ? Told.Better
        : Told.NotYet;

    /// <summary>It in words.</summary>
    public static string Words(Told told) =>
        told switch
        {
            Told.Sound => "nothing was wrong with it",
            Told.Mended => "it is mended",
            Told.Better => "it is better, and not all of it is found",
            _ => "it is not mended yet",
        };
}

/// <summary>How a case was ended, beside what was done.</summary>
/// <param name="Told">What the owner heard.</param>
/// <param name="Fair">Whether the sheet's comparison holds: null where before and after were not both run.</param>
/// <param name="Unfair">Why it does not; null where it does.</param>
/// <param name="Seen">The case as the sheet had it before anything was mended; null where there is no sheet.</param>
public sealed record PracticeEnding(Told Told, bool? Fair, string? Unfair = null, DiagnosisCase? Seen = null);

/// <summary>A line of a score.</summary>
/// <param name="Yours">What was done.</param>
/// <param name="Best">What the best way comes to; null where it has nothing to say.</param>
/// <param name="Points">What it was worth.</param>
/// <param name="Of">What it can be worth.</param>
/// <param name="Why">Where points were lost; null where none were.</param>
public sealed record ScoreLine(string Id, string Title, string Yours, string? Best, double Points, double Of, string? Why);

/// <summary>A case that was ended, held against the best way to work it (docs/science.md, “Practice”).</summary>
/// <param name="Points">0 … 100.</param>
/// <param name="Best">What the best way did.</param>
public sealed record PracticeScore(double Points, IReadOnlyList<ScoreLine> Lines, PracticeStand Best)
{
    private const double OfRepair = 40,
        OfMinutes = 15,
        OfMoney = 10,
        OfDays = 5,
        OfBaseline = 10,
        OfFairness = 10,
        OfVerdict = 10;

    /// <summary>A repair that mended nothing costs so much of what the right one is worth.</summary>
    private const double NeedlessCosts = 10;

    /// <summary>Within this of the best way nothing is lost; at three times its minutes everything is.</summary>
    private const double FreeTimes = 1.25,
        LostTimes = 3;

    private const double LostMinor = 8000,
        LostDays = 4;

    /// <summary>Scores a case that was ended.</summary>
    /// <param name="done">What was done, in order.</param>
    /// <param name="best">What <see cref="BestWay"/> did with the same case.</param>
    /// <param name="currency">In which parts are paid.</param>
    public static PracticeScore Of(PracticeCase practice, PracticeStand done, PracticeEnding ending, PracticeStand best, string currency)
    {
        PracticeStand yours = done.Kept(practice),
            its = best;
        ScoreLine[] lines =
        [
            Repair(practice, yours, its),
            Minutes(yours, its),
            Money(yours, its, currency),
            Days(yours, its),
            Baseline(yours),
            Fairness(practice, yours, ending),
            Verdict(practice, yours, ending),
        ];
        return new PracticeScore(lines.Sum(line => line.Points), lines, its);
    }

    private static ScoreLine Repair(PracticeCase practice, PracticeStand yours, PracticeStand best)
    {
        IReadOnlyList<string> left = yours.Left(practice);
        string[] needless =
        [
            .. yours
                .Acts.Where(act => act.Kind == PracticeDeed.Repair && act.Cured is { Count: 0 })
                .Select(act => act.Title)
                .Distinct(StringComparer.Ordinal),
        ];
        int faults = practice.Faults.Count;
        double share = faults == 0 ? 1 : (faults - left.Count) / (double)faults;
        double points = Math.Max(0, (OfRepair * share) - (NeedlessCosts * needless.Length));
        string? why =
            left.Count > 0 ? $"Still there: {Titles(left)}."
            : needless.Length > 0 ? $"Mended nothing: {string.Join(", ", needless)}."
            : null;
        IReadOnlyList<string> missed = best.Left(practice);
        return new ScoreLine(
            "repair",
            "Repair",
            faults == 0
                ? needless.Length == 0
                    ? "left alone, as it should be"
                    : $"{needless.Length} of a sound machine"
                : $"{faults - left.Count} of {faults} faults gone",
            faults == 0 ? "leaves it alone"
                : missed.Count == 0 ? "all gone"
                : $"leaves {Titles(missed)}",
            points,
            OfRepair,
            why
        );
    }

    private static string Titles(IReadOnlyList<string> causes) =>
        string.Join(", ", causes.Select(cause => DiagnosisTables.CauseOf(cause).Title.ToLowerInvariant()));

    private static ScoreLine Minutes(PracticeStand yours, PracticeStand best)
    {
        double times = yours.Minutes / Math.Max(1, best.Minutes);
        double points = OfMinutes * Math.Clamp((LostTimes - times) / (LostTimes - FreeTimes), 0, 1);
        return new ScoreLine(
            "minutes",
            "Minutes of labour",
            $"{yours.Minutes:0} min",
            $"{best.Minutes:0} min",
            points,
            OfMinutes,
            points < OfMinutes ? $"{times:0.0} times as long as it takes." : null
        );
    }

    private static ScoreLine Money(PracticeStand yours, PracticeStand best, string currency)
    {
        long more = PartsOf(yours) - PartsOf(best);
        double points = OfMoney * Math.Clamp(1 - (more / LostMinor), 0, 1);
        return new ScoreLine(
            "parts",
            "Parts",
            Words(PartsOf(yours)),
            Words(PartsOf(best)),
            points,
            OfMoney,
            points < OfMoney ? $"{Words(more)} more than it needs." : null
        );
        string Words(long minor) => Currency.Words(minor, currency);
    }

    private static long PartsOf(PracticeStand stand) => stand.Acts.Sum(act => act.PartsMinor);

    private static ScoreLine Days(PracticeStand yours, PracticeStand best)
    {
        // What is ordered together comes together.
        double own = yours.Acts.Select(act => act.Days).DefaultIfEmpty(0).Max(),
            its = best.Acts.Select(act => act.Days).DefaultIfEmpty(0).Max();
        double points = OfDays * Math.Clamp(1 - ((own - its) / LostDays), 0, 1);
        return new ScoreLine(
            "days",
            "Days the owner waits for parts",
            $"{own:0}",
            $"{its:0}",
            points,
            OfDays,
            points < OfDays ? "Something was ordered that it did not need." : null
        );
    }

    private static ScoreLine Baseline(PracticeStand yours)
    {
        int usual = IndexOf(yours, act => act is { Kind: PracticeDeed.Run, Id: "usual" }),
            changed = IndexOf(yours, act => act.IsIrreversible);
        bool before = usual >= 0 && (changed < 0 || usual < changed);
        return new ScoreLine(
            "baseline",
            "Measured before it was changed",
            before ? "yes" : "no",
            "yes",
            before ? OfBaseline : 0,
            OfBaseline,
            before ? null
                : usual < 0 ? "It was never run as its owner uses it."
                : $"“{yours.Acts[changed].Title}” came first: how it was before cannot be measured any more."
        );
    }

    private static int IndexOf(PracticeStand stand, Func<PracticeAct, bool> holds) =>
        stand.Acts.Select((act, i) => (act, i)).Where(one => holds(one.act)).Select(one => one.i).FirstOrDefault(-1);

    private static ScoreLine Fairness(PracticeCase practice, PracticeStand yours, PracticeEnding ending)
    {
        bool changed = yours.Acts.Any(act => act.IsIrreversible);
        // A machine that nobody has touched is compared with nothing.
        bool fair = changed ? ending.Fair == true : practice.Faults.Count == 0 || ending.Fair == true;
        return new ScoreLine(
            "fair",
            "Before and after compared fairly",
            ending.Fair switch
            {
                true => "yes",
                false => "no",
                null => changed ? "not both run" : "nothing was changed",
            },
            practice.Faults.Count == 0 ? null : "yes",
            fair ? OfFairness : 0,
            OfFairness,
            fair ? null
                : ending.Fair is null ? "Without a run before the work and one after it, nobody knows what it has done."
                : ending.Unfair ?? "The two runs were not made under the same conditions."
        );
    }

    private static ScoreLine Verdict(PracticeCase practice, PracticeStand yours, PracticeEnding ending)
    {
        Told truth = ToldOwner.Truth(practice, yours);
        bool honest = truth == ending.Told;
        return new ScoreLine(
            "verdict",
            "What the owner was told",
            ToldOwner.Words(ending.Told),
            null,
            honest ? OfVerdict : 0,
            OfVerdict,
            honest ? null : $"In truth {ToldOwner.Words(truth)}."
        );
    }
}

using System.Text.Json.Serialization;
using Remedos.Core.Diagnosis;
using Remedos.Core.Machines;
using Remedos.Core.Matching;
using Remedos.Core.Physics;
using Remedos.Core.Repair;
using Remedos.Core.Runs;

namespace Remedos.Core.Money;

/// <summary>What can be done.</summary>
[JsonConverter(typeof(KebabEnum<DecisionRoute>))]
public enum DecisionRoute
{
    /// <summary>What is wrong is put right.</summary>
    Repair,

    /// <summary>Another cooler goes on.</summary>
    Cooler,

    /// <summary>The processor is held to what it holds.</summary>
    Cap,

    /// <summary>Nothing.</summary>
    Leave,
}

/// <summary>One of the ways that an owner can choose.</summary>
/// <param name="ExpectedMinor">On average, tax included.</param>
/// <param name="ClockLossPercent">What of the clock is given up; null when it is not known.</param>
/// <param name="Sentence">What it does, and what not.</param>
/// <param name="Quote">What is to be paid for it once; null for repairs, which go step by step.</param>
public sealed record DecisionWay(
    DecisionRoute Id,
    string Title,
    long ExpectedMinor,
    double Minutes,
    double? ClockLossPercent,
    string Sentence,
    Quote? Quote,
    IReadOnlyList<RepairStep> Steps
);

/// <summary>The ways beside each other.</summary>
/// <param name="Sentence">Which one is reasonable, and why.</param>
public sealed record Decision(IReadOnlyList<DecisionWay> Ways, DecisionRoute Advised, string Sentence)
{
    /// <summary>Faults that go with the cooler, so that another one cures them too, though a smaller repair would.</summary>
    private static readonly IReadOnlyList<string> GoWithTheCooler = FaultEffects.OfTheCooler;

    /// <summary>Less is not worth a word, %.</summary>
    private const double NoticedPercent = 1;

    /// <summary>The ways for a machine, its match and its diagnosis.</summary>
    /// <param name="diagnosis">Null while nothing was observed.</param>
    /// <param name="machine">What steps, and so minutes, hang on.</param>
    /// <param name="measuredHoldsW">What the machine as it is holds at its limit by its own run, W; null without one.</param>
    /// <param name="held">What holds it back where heat does not; null for nothing.</param>
    public static Decision Of(
        Build build,
        MatchAnswer match,
        DiagnosisAnswer? diagnosis,
        double? measuredHoldsW,
        RepairFacts machine,
        Rates rates,
        HeldBack? held = null
    )
    {
        double watts = build.Processor.SustainedPowerW;
        Candidate? current = match.Candidates.FirstOrDefault(one => one.IsCurrent);
        double? holds = measuredHoldsW ?? (current is null ? null : watts + current.HeadroomW);
        double? loss = holds is { } w ? PhysicalConstants.ClockLossPercent(w, watts) : null;
        bool hot = loss > NoticedPercent;
        // The same stand that the headline, the rail and the Now card show.
        DiagnosisStand? stand = diagnosis is null ? null : DiagnosisStand.Of(diagnosis);
        bool wrong = stand is { Lead: not null, Certainty: not null };
        Candidate? best = BestOf(match, stand);
        List<DecisionWay> ways = [];
        RepairSequence? repairs = diagnosis is null
            ? null
            : RepairSequence.Of(diagnosis, machine, rates, best is null ? null : QuoteOf(best, machine, rates));
        if (repairs is { Steps.Count: > 0 } sequence)
        {
            ways.Add(
                new DecisionWay(
                    DecisionRoute.Repair,
                    "Repair it",
                    sequence.ExpectedMinor,
                    sequence.ExpectedMinutes,
                    0,
                    // A cheap step may come before the likeliest: the order is of money, and says so.
                    sequence.Steps.Count == 1
                        ? $"It fixes it with a chance of {100 * sequence.Fixed:0} %."
                        : $"In this order it costs least on average; one of {sequence.Steps.Count} steps fixes it with "
                            + $"{100 * sequence.Fixed:0} %.",
                    null,
                    sequence.Steps
                )
            );
        }

        if (best is not null)
        {
            Quote quote = QuoteOf(best, machine, rates);
            double lost = PhysicalConstants.ClockLossPercent(watts + best.HeadroomW, watts);
            string sound = wrong && !GoWithTheCooler.Contains(stand!.Lead!.Id) ? $" What is wrong now stays: {Lower(stand.Title)}." : "";
            ways.Add(
                new DecisionWay(
                    DecisionRoute.Cooler,
                    $"Fit {best.Name}",
                    quote.TotalMinor,
                    quote.Minutes,
                    lost,
                    $"{best.Why}{(best.PriceShare is { } share ? $" {100 * share:0} % of the chip’s price." : "")}"
                        + $"{(best.PriceMinor is null ? " Its price is not known and not in it." : "")}{sound}",
                    quote,
                    []
                )
            );
        }

        if (hot)
        {
            Quote quote = Quote.Of([], RepairPlanner.MinutesOf(machine, "cap-power"), rates);
            double cap = Math.Floor(holds!.Value / 5) * 5,
                gone = PhysicalConstants.ClockLossPercent(cap, watts);
            ways.Add(
                new DecisionWay(
                    DecisionRoute.Cap,
                    $"Cap the power at {cap:0} W",
                    quote.TotalMinor,
                    quote.Minutes,
                    gone,
                    $"It holds {cap:0} W of {watts:0} W at its limit. About {gone:0} % of the clock goes, and the fans stay as loud.",
                    quote,
                    []
                )
            );
        }

        ways.Add(
            new DecisionWay(
                DecisionRoute.Leave,
                "Leave it",
                0,
                0,
                held is null ? loss : held.ClockLossPercent,
                held is not null
                        ? $"Its {held.By} goes on holding it to {held.Watts:0} W of {watts:0} W"
                            + (
                                held.ClockLossPercent is { } given
                                    ? $": about {given:0} % of the clock is lost under long work."
                                    : "; how much of the clock that costs is not known."
                            )
                    : loss is null ? "Nobody has measured what it holds."
                    : hot ? $"It keeps throttling: about {loss:0} % of the clock is lost under long work, and it stands at its limit."
                    : measuredHoldsW is null ? "By its parts it should hold what it draws; no run has shown it yet."
                    : "It holds what it draws; nothing is lost.",
                Quote.Of([], 0, rates),
                []
            )
        );
        // Where the cooler itself is at fault, the repair is another cooler.
        bool another = wrong && best is not null && RepairRow.IsAnotherCooler(stand!.Lead!.Repair);
        DecisionRoute advised =
            another ? DecisionRoute.Cooler
            : wrong && repairs is { Steps.Count: > 0 } ? DecisionRoute.Repair
            : !hot ? DecisionRoute.Leave
            : best is { Throttles: false } ? DecisionRoute.Cooler
            : DecisionRoute.Cap;
        DecisionWay chosen = ways.FirstOrDefault(way => way.Id == advised) ?? ways[^1];
        return new Decision(
            ways,
            chosen.Id,
            chosen.Id switch
            {
                DecisionRoute.Repair => $"Repair it first: {Lower(stand!.Title)}, {stand.Percent}"
                    + $"{(GoWithTheCooler.Contains(stand.Lead!.Id) ? "" : "; another cooler would not cure that")}.",
                DecisionRoute.Cooler when another => $"Another cooler is the cure: {Lower(stand!.Title)}, {stand.Percent}.",
                DecisionRoute.Cooler => "Another cooler: nothing seems wrong, and what is on it does not hold the chip.",
                DecisionRoute.Cap => $"Cap the power: nothing that fits holds {watts:0} W, and the limit is reached anyway.",
                _ when hot => "Leave it or look further: too little is known for more.",
                _ when held is not null => $"There is no case for another cooler: its {held.By} holds it back, and no heat.",
                _ when measuredHoldsW is null =>
                    "There is no case for another cooler: by its parts it holds what it draws. No run has shown it yet.",
                _ when stand is { IsSound: false } => "Leave the cooler: it holds what it draws. What else is wrong is not settled yet.",
                _ => "Leave it: it is sound and holds what it draws.",
            }
        );
    }

    /// <summary>The cooler that would be fitted: the first that fits and gains, or that cures; null for none.</summary>
    internal static Candidate? BestOf(MatchAnswer match, DiagnosisStand? stand)
    {
        Candidate? current = match.Candidates.FirstOrDefault(one => one.IsCurrent);
        bool cures = stand is { Lead: { } lead, Certainty: not null } && RepairRow.IsAnotherCooler(lead.Repair);
        return match.Candidates.FirstOrDefault(one =>
            one is { Fits: true, IsCurrent: false, Rank: not null }
            && (cures || Gains(one, current))
            // Quieter is no gain where the chip would throttle for it.
            && (!one.Throttles || current is null or { Throttles: true })
        );
    }

    private static string Lower(string title) => char.ToLowerInvariant(title[0]) + title[1..];

    /// <summary>Nobody pays for one that is neither cooler nor quieter.</summary>
    private static bool Gains(Candidate one, Candidate? current) =>
        current is null || one.TemperatureC.Value < current.TemperatureC.Value - 1 || one.NoiseDba < current.NoiseDba - 3;

    /// <summary>What a cooler costs, put on.</summary>
    public static Quote QuoteOf(Candidate one, RepairFacts machine, Rates rates) =>
        one.IsCurrent
            ? Quote.Of([], 0, rates)
            : Quote.Of(
                [new QuoteLine(one.Name, one.PriceMinor ?? 0), new QuoteLine("Paste", RepairRow.Of(RepairRow.Remount).PartsMinor)],
                RepairPlanner.MinutesOf(machine, RepairRow.Upgrade, new NewCooler(one.Name, one.Kind, one.Place)),
                rates
            );
}

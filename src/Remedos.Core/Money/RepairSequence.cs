using Remedos.Core.Diagnosis;
using Remedos.Core.Repair;

namespace Remedos.Core.Money;

/// <summary>A repair in the order in which they are tried.</summary>
/// <param name="Probability">That its cause is there.</param>
public sealed record RepairStep(string Id, string Title, double Probability, Quote Quote);

/// <summary>
/// Repairs one after the other until the machine is fixed, the most probable per money first, which is the order with the least expected
/// cost where each is paid for only if those before it failed
/// (docs/science.md, “What it costs”).
/// </summary>
/// <param name="ExpectedMinor">On average until it is fixed, tax included.</param>
/// <param name="Fixed">How probably one of them fixes it.</param>
public sealed record RepairSequence(IReadOnlyList<RepairStep> Steps, long ExpectedMinor, double ExpectedMinutes, double Fixed)
{
    /// <summary>A cause less probable than this is not repaired on suspicion.</summary>
    private const double WorthTrying = 0.03;

    /// <summary>The sequence for a diagnosis.</summary>
    /// <param name="causes">Each with its probability.</param>
    /// <param name="machine">What its steps, and so its minutes, hang on.</param>
    /// <param name="upgrade">What the cooler that would be chosen costs, put on; null for a usual one.</param>
    public static RepairSequence Of(IReadOnlyList<CauseAnswer> causes, RepairFacts machine, Rates rates, Quote? upgrade = null)
    {
        // The repair that would settle it is needed once, whichever of its causes it is; and the machine is fixed by one of them.
        double all = Math.Max(1, causes.Sum(cause => cause.Probability));
        RepairStep[] steps =
        [
            .. causes
                .GroupBy(cause => DiagnosisTables.CauseOf(cause.Id).Repair)
                .Select(group =>
                    (
                        Row: RepairRow.Of(group.Key),
                        Title: DiagnosisTables.CauseOf(group.First().Id).RepairTitle,
                        P: Math.Min(1, group.Sum(cause => cause.Probability) / all)
                    )
                )
                .Where(step => step.P >= WorthTrying)
                .Select(step => new RepairStep(
                    step.Row.Id,
                    step.Title,
                    step.P,
                    RepairRow.IsAnotherCooler(step.Row.Id) && upgrade is not null ? upgrade : QuoteOf(step.Row.Id, machine, rates)
                ))
                .OrderByDescending(step => step.Probability * RepairRow.Of(step.Id).Settles / Math.Max(1, step.Quote.TotalMinor))
                .ThenBy(step => step.Id, StringComparer.Ordinal),
        ];
        double left = 1,
            money = 0,
            minutes = 0;
        foreach (RepairStep step in steps)
        {
            money += left * step.Quote.TotalMinor;
            minutes += left * step.Quote.Minutes;
            left = Math.Max(0, left - (step.Probability * RepairRow.Of(step.Id).Settles));
        }

        return new RepairSequence(steps, (long)Math.Round(money), minutes, 1 - left);
    }

    /// <summary>What something that is done costs.</summary>
    public static Quote QuoteOf(string act, RepairFacts machine, Rates rates) =>
        Quote.Of([new QuoteLine(RepairRow.Of(act).Name, RepairRow.Of(act).PartsMinor)], RepairPlanner.MinutesOf(machine, act), rates);
}

using Remedos.Core.Diagnosis;
using Remedos.Core.Repair;

namespace Remedos.Core.Money;

/// <summary>A repair in the order in which they are tried.</summary>
/// <param name="Probability">That it is needed.</param>
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
    /// <summary>A repair less probable than this is not tried on suspicion.</summary>
    private const double WorthTrying = 0.03;

    internal static bool IsWorthTrying(double probability) => probability >= WorthTrying;

    /// <summary>The sequence for a diagnosis.</summary>
    /// <param name="machine">What its steps, and so its minutes, hang on.</param>
    /// <param name="upgrade">What the cooler that would be chosen costs, put on; null for a usual one.</param>
    public static RepairSequence Of(DiagnosisAnswer diagnosis, RepairFacts machine, Rates rates, Quote? upgrade = null)
    {
        // More than one may be needed; where the sequence stops, one of them has fixed it.
        double all = Math.Max(1, diagnosis.Repairs.Sum(repair => repair.Probability));
        RepairStep[] steps =
        [
            .. diagnosis
                .Repairs.Where(repair => IsWorthTrying(repair.Probability))
                .Select(repair => new RepairStep(
                    repair.Id,
                    TitleOf(repair.Id, diagnosis),
                    repair.Probability,
                    RepairRow.IsAnotherCooler(repair.Id) && upgrade is not null ? upgrade : QuoteOf(repair.Id, machine, rates)
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
            left = Math.Max(0, left - (step.Probability / all * RepairRow.Of(step.Id).Settles));
        }

        return new RepairSequence(steps, (long)Math.Round(money), minutes, 1 - left);
    }

    /// <summary>What it is called for the most probable cause that it cures.</summary>
    private static string TitleOf(string repair, DiagnosisAnswer diagnosis) =>
        diagnosis
            .Causes.Select(cause => DiagnosisTables.CauseOf(cause.Id))
            .Concat(DiagnosisTables.Causes)
            .First(row => row.Repair == repair)
            .RepairTitle;

    /// <summary>What something that is done costs.</summary>
    public static Quote QuoteOf(string act, RepairFacts machine, Rates rates) =>
        Quote.Of([new QuoteLine(RepairRow.Of(act).Name, RepairRow.Of(act).PartsMinor)], RepairPlanner.MinutesOf(machine, act), rates);
}

using Remedos.Core.Runs;

namespace Remedos.Core.Comparison;

/// <summary>
/// Which runs of two setups are held against each other: those that were made alike on both sides, as the owner uses it where there are as
/// many of them. Trials of the
/// diagnosis, such as one with the panel off, stand beside and do not disturb.
/// </summary>
public static class RunPairing
{
    /// <summary>The runs of both sides that a verdict may be built on.</summary>
    public static (IReadOnlyList<ConditionedRun> Before, IReadOnlyList<ConditionedRun> After) Of(
        IReadOnlyList<ConditionedRun> before,
        IReadOnlyList<ConditionedRun> after
    )
    {
        var alike = before
            .GroupBy(HowOf)
            .Select(group => (group.Key, Before: group.ToArray(), After: after.Where(run => HowOf(run) == group.Key).ToArray()))
            .Where(pair => pair.After.Length > 0)
            .OrderByDescending(pair => Math.Min(pair.Before.Length, pair.After.Length))
            .ThenByDescending(pair => pair.Before[0].Conditions.IsUsual)
            .ToArray();
        return alike.Length > 0 ? (alike[0].Before, alike[0].After) : (Usual(before), Usual(after));
    }

    /// <summary>Runs that were made alike, kind by kind.</summary>
    public static IEnumerable<IReadOnlyList<ConditionedRun>> Alike(IReadOnlyList<ConditionedRun> runs) =>
        runs.GroupBy(HowOf).Select(group => group.ToArray());

    /// <summary>Those made as the owner uses it; all when none was.</summary>
    private static IReadOnlyList<ConditionedRun> Usual(IReadOnlyList<ConditionedRun> runs) =>
        runs.Where(run => run.Conditions.IsUsual).ToArray() is { Length: > 0 } usual ? usual : runs;

    private static (
        string? Workload,
        string? Panel,
        string? FanPolicy,
        double? Fan,
        double Cap,
        double Clock,
        double Voltage,
        string? Card,
        string? Trial
    ) HowOf(ConditionedRun run) =>
        (
            run.Conditions.Workload?.Trim().ToLowerInvariant(),
            run.Conditions.Panel,
            run.Conditions.FanPolicy,
            run.Conditions.FanRpm ?? run.Conditions.FanPercent,
            run.Conditions.PowerCapW ?? RunConditions.NoCap,
            run.Conditions.ClockLockMHz ?? RunConditions.NoCap,
            run.Conditions.VoltageLockV ?? RunConditions.NoCap,
            run.Conditions.CardLoad,
            run.Conditions.Trial
        );
}

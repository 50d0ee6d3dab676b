namespace Remedos.Core.Comparison;

/// <summary>
/// Which runs of a job are held against each other: those that were made alike on both sides, most of them first and then as the owner uses it. Trials of the diagnosis,
/// such as one with the panel off, stand beside and do not disturb.
/// </summary>
public static class RunPairing
{
    public static (IReadOnlyList<ConditionedRun> Before, IReadOnlyList<ConditionedRun> After) Of(IReadOnlyList<ConditionedRun> before, IReadOnlyList<ConditionedRun> after)
    {
        var alike = before.GroupBy(HowOf).Select(group => (group.Key, Before: group.ToArray(), After: after.Where(run => HowOf(run) == group.Key).ToArray())).Where(pair => pair.After.Length > 0)
            .OrderByDescending(pair => Math.Min(pair.Before.Length, pair.After.Length)).ThenByDescending(pair => pair.Before[0].Conditions.IsUsual).ToArray();
        return alike.Length > 0 ? (alike[0].Before, alike[0].After) : (Usual(before), Usual(after));
    }

    /// <summary>Those made as the owner uses it; all when none was.</summary>
    private static IReadOnlyList<ConditionedRun> Usual(IReadOnlyList<ConditionedRun> runs) => runs.Where(run => run.Conditions.IsUsual).ToArray() is { Length: > 0 } usual ? usual : runs;

    private static (string? Workload, string? Panel, string? FanPolicy, double? FanPercent, double? PowerCapW, string? Trial) HowOf(ConditionedRun run) =>
        (run.Conditions.Workload, run.Conditions.Panel, run.Conditions.FanPolicy, run.Conditions.FanPercent, run.Conditions.PowerCapW, run.Conditions.Trial);
}

using Remedos.Core.Comparison;
using Remedos.Core.Runs;

namespace Remedos.Cli;

/// <summary>The runs of logs, each on its mount.</summary>
internal static class LoggedRuns
{
    /// <summary>Repeats in one log always share a mount; so do logs whose conditions name the same one.</summary>
    public static ConditionedRun[] Of(IEnumerable<FileInfo> logs) =>
        [
            .. logs.Select(log => (log, Read: Input.Log(log, null)))
                .SelectMany(pair =>
                {
                    IReadOnlyList<RunAnalysis> runs = RunAnalyzer.AnalyzeEach(pair.Read.Log, pair.Read.Conditions);
                    string? mount = pair.Read.Conditions.Mount ?? (runs.Count > 1 ? pair.log.FullName : null);
                    return runs.Select(run => new ConditionedRun(run, pair.Read.Conditions, mount));
                }),
        ];
}

namespace Remedos.Core.Runs;

/// <summary>
/// Conditions of a run that nobody stated and its log does not tell: they are asked for beside it, and count as unknown until then.
/// </summary>
public static class UnknownConditions
{
    /// <summary>Names of the conditions, in the order in which they are asked.</summary>
    public static IReadOnlyList<string> Of(RunConditions conditions, RunAnalysis analysis)
    {
        List<string> unknown = [];
        void Ask(string name, bool isUnknown)
        {
            if (isUnknown)
            {
                unknown.Add(name);
            }
        }

        Ask("workload", string.IsNullOrWhiteSpace(conditions.Workload));
        Ask("ambientC", analysis.AmbientC is null);
        Ask("panel", conditions.Panel is null);
        Ask("fanPolicy", conditions.FanPolicy is null);
        Ask("fanPercent", conditions is { FanPolicy: "fixed", FanPercent: null, FanRpm: null } && analysis.Load?.SustainedFanRpm is null);
        // A card that is logged tells by itself what it did.
        Ask("cardLoad", conditions.CardLoad is null && analysis.Graphics is null && analysis.Beside?.GraphicsPowerW is > GpuAtRestW);
        return unknown;
    }

    /// <summary>More than a card at rest draws, W.</summary>
    private const double GpuAtRestW = 40;
}

using Remedos.Core.Comparison;

namespace Remedos.Core.Jobs;

/// <summary>Whether a verdict answers the owner's complaint.</summary>
/// <param name="Solved">It leads to hand over, and nothing more is asked.</param>
/// <param name="Reason">Why the next round is to be opened, of <see cref="RoundReason"/>; null where it is not.</param>
/// <param name="Sentence">What was reached, or what is left.</param>
public sealed record JobOutcome(bool Solved, string? Reason, string Sentence)
{
    /// <summary>How much quieter it is, dB, where that is what was asked for and what was reached; null otherwise.</summary>
    public double? QuieterDba { get; init; }

    /// <summary>The wish for quiet.</summary>
    public const string Quiet = "quiet";

    /// <summary>Quieter by so much is heard, dB.</summary>
    private const double HeardDba = 1.5;

    /// <summary>So far from its limit a chip may be warmer for the sake of quiet, °C.</summary>
    private const double ClearC = 10;

    /// <summary>What became of the setup that is judged; null while there is no verdict about it.</summary>
    public static JobOutcome? Of(JobFacts f)
    {
        if (f.Pair?.Compared is { SatBadly: true })
        {
            return new(false, RoundReason.BadPrint, "The paste print says that it sat badly.");
        }

        if (f.Verdict is not { Comparable: true } verdict)
        {
            return null;
        }

        if (f.Wish == Quiet && Quieter(verdict) is { } quieter && IsClear(verdict.After))
        {
            return new(
                true,
                null,
                $"{quieter:0} dB quieter, and {Degrees.By(verdict.After.LimitC - verdict.After.TemperatureC)} clear of its "
                    + $"limit: that is what "
                    + $"was asked for."
            )
            {
                QuieterDba = quieter,
            };
        }

        return verdict switch
        {
            { Verdict: Verdict.Worse } => new(false, RoundReason.Worse, "The runs say it is worse than before."),
            { After.AtLimit: true } => new(false, RoundReason.NotFixed, "It still reaches its limit."),
            { Verdict: Verdict.Improved, Matters: true } => new(true, null, "It is better, and it matters."),
            { Graphics: { Verdict: Verdict.Improved, Matters: true, After.AtLimit: false } } => new(
                true,
                null,
                "The graphics card is better, and it matters."
            ),
            { Matters: true } => new(true, null, "What it holds has changed, and it matters."),
            _ => new(
                false,
                RoundReason.NotFixed,
                verdict.Measurable ? "What it gained is too little to matter." : "Nothing measurable has changed."
            ),
        };
    }

    private static double? Quieter(ComparisonResult verdict) =>
        verdict.Noise is { BeforeDba: { } before, AfterDba: { } after } && before - after >= HeardDba ? before - after : null;

    private static bool IsClear(Side side) => !side.AtLimit && side.LimitC - side.TemperatureC >= ClearC;
}

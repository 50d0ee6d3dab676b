using Remedos.Core.Comparison;
using Remedos.Core.Runs;

namespace Remedos.Core.Handover;

/// <summary>A machine that came back, held against how it left.</summary>
public static class SinceThen
{
    /// <summary>A step that holds less of the change is not named.</summary>
    private const double MostlyShare = 0.6;

    /// <summary>What changed since it was here, in a sentence.</summary>
    /// <param name="since">The runs it left with against the runs it came back with.</param>
    /// <param name="then">The heat path it left with; null where it was not read.</param>
    /// <param name="leftOn">The day of the runs it left with.</param>
    /// <param name="subject">Whose cooling they are compared by; of the card's there is no heat path.</param>
    public static string Of(
        ComparisonResult since,
        HeatStaircase? then,
        HeatStaircase? now,
        DateOnly leftOn,
        Subject subject = Subject.Processor
    )
    {
        string when = leftOn.ToString("MMMM yyyy", System.Globalization.CultureInfo.InvariantCulture);
        if (since is not { Comparable: true, Change: { } change })
        {
            string why = since.Obstacles.FirstOrDefault(one => one.Severity == ObstacleWeight.Blocking)?.Message
                ?? "They were not made alike.";
            return $"Its runs of {when} and of now cannot be compared. {why}";
        }

        bool ofCard = subject == Subject.Graphics;
        if (!since.Measurable)
        {
            return $"{(ofCard ? "Its card is as" : "As")} it left in {when}: no change that can be measured.";
        }

        double c = change.AtReferencePowerC;
        string where = !ofCard && c > 0 && Mostly(then, now) is { } step ? $", most of it at “{step}”" : "";
        return $"{(ofCard ? "Its card is " : "")}{Degrees.By(Math.Abs(c))} {(c > 0 ? "warmer" : "cooler")} than it left in {when}, "
            + $"at the same power and fan speed{where}.";
    }

    /// <summary>The step that grew most, where it holds most of what grew.</summary>
    private static string? Mostly(HeatStaircase? then, HeatStaircase? now)
    {
        if (then is null || now is null)
        {
            return null;
        }

        (StaircaseStep Step, double Grew)[] grown =
        [
            .. now.Steps.Select(step =>
                (step, Math.Max(0, step.ResistanceCPerW - (then.Steps.FirstOrDefault(one => one.Id == step.Id)?.ResistanceCPerW ?? 0)))
            ),
        ];
        (StaircaseStep Step, double Grew) most = grown.MaxBy(one => one.Grew);
        double all = grown.Sum(one => one.Grew);
        return all > 0 && most.Grew > MostlyShare * all ? most.Step.Title : null;
    }
}

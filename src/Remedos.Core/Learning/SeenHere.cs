namespace Remedos.Core.Learning;

/// <summary>What a workshop has seen of coolers of one series, as it is said wherever that series is offered or quoted.</summary>
/// <param name="Early">Whether it fails early.</param>
/// <param name="Sentence">“Here 6 of 7 had failed; one in four by 33 months.”</param>
public sealed record SeenHere(bool Early, string Sentence)
{
    /// <summary>Of how long they last and how those fare that were fitted; null where neither says anything yet.</summary>
    /// <param name="wear">Null where none came in with its age known.</param>
    /// <param name="fitted">Null where none was fitted.</param>
    public static SeenHere? Of(SeriesSummary? wear, FittedParts? fitted)
    {
        string?[] says =
        [
            wear is { Failures: > 0 } or { IsEnough: true } ? $"Here {char.ToLowerInvariant(wear.Sentence[0])}{wear.Sentence[1..]}" : null,
            fitted is { TakenOff: > 0 } or { CameBack: > 0 } ? fitted.Sentence : null,
        ];
        string sentence = string.Join(' ', says.OfType<string>());
        return sentence.Length == 0 ? null : new SeenHere(wear?.FailsEarly == true, sentence);
    }

    /// <summary>Of the generation before, while nothing is seen of this one: whether it was mended nobody has seen.</summary>
    public static SeenHere OfTheOneBefore(string name, SeenHere seen) =>
        new(
            false,
            $"Nothing is seen of it yet. Of {name}, whose next generation it is: "
                + $"{char.ToLowerInvariant(seen.Sentence[0])}{seen.Sentence[1..]}"
        );
}

namespace Remedos.Core.Handover;

/// <summary>A part of the owner's page, as it is read and printed.</summary>
/// <param name="Id">told, found, did, tried, measured, price, back or watch.</param>
/// <param name="Lines">A sentence each.</param>
/// <param name="Listed">Whether the lines are a list and no text.</param>
public sealed record OwnerSection(string Id, string Title, IReadOnlyList<string> Lines, bool Listed = false);

/// <summary>What hands wrote down and the owner reads.</summary>
/// <param name="Parts">What was used and built in.</param>
/// <param name="Kept">Old parts that are the owner's.</param>
/// <param name="Price">What it costs, in a sentence; null while nothing was agreed.</param>
/// <param name="EarlierRounds">What rounds before this one came to, a sentence each.</param>
public sealed record OwnerNotes(string? Parts, IReadOnlyList<string> Kept, string? Price, IReadOnlyList<string> EarlierRounds)
{
    /// <summary>Nothing written down.</summary>
    public static OwnerNotes None { get; } = new(null, [], null, []);
}

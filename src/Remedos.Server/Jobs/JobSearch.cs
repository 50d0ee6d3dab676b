namespace Remedos.Server.Jobs;

/// <summary>Reads what was typed into the search.</summary>
internal static class JobSearch
{
    private const int MostWords = 12,
        LongestWord = 100;

    /// <summary>Its words; null, with a sentence, for what is no search.</summary>
    public static IReadOnlyList<string>? Of(string? typed, out string? problem)
    {
        string[] words = (typed ?? "").Split((char[]?)null, MostWords + 1, StringSplitOptions.RemoveEmptyEntries);
        problem =
            words.Length > MostWords ? $"A search takes at most {MostWords} words; this is a longer text."
            : Array.Exists(words, word => word.Length > LongestWord) ? $"A word of a search has at most {LongestWord} letters."
            : null;
        return problem is null ? words : null;
    }
}

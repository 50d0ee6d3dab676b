using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Data.Jobs;

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

    /// <summary>Jobs in which every word is found; each is looked up in the index of the letters of <see cref="Job.Found"/>.</summary>
    public static IQueryable<Job> In(IQueryable<Job> jobs, Workshop workshop, IReadOnlyList<string> words)
    {
        foreach (string word in words)
        {
            string pattern = PatternOf(workshop, word);
            jobs = jobs.Where(job => EF.Functions.Like(job.Found!, pattern, "\\"));
        }

        return jobs;
    }

    /// <summary>A tag, or how one begins, is its number behind the mark that <see cref="Job.Found"/> has before it.</summary>
    private static string PatternOf(Workshop workshop, string word)
    {
        string prefix = $"{workshop.TagPrefix}-";
        bool isTag =
            word.StartsWith(prefix, StringComparison.OrdinalIgnoreCase) && word.AsSpan(prefix.Length).IndexOfAnyExceptInRange('0', '9') < 0;
        return isTag ? $"%#{word[prefix.Length..]}%" : $"%{JobSheets.Literally(word.ToLowerInvariant())}%";
    }
}

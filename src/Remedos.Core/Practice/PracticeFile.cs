using System.Text.Json;
using System.Text.Json.Serialization;

namespace Remedos.Core.Practice;

/// <summary>A case as a file, to give to somebody: what it is drawn from, and not what is wrong with it (docs/formats.md).</summary>
/// <param name="RemedosPractice">The version of the file: 1.</param>
/// <param name="Check">What the drawn case is known again by.</param>
public sealed record PracticeFile(
    [property: JsonRequired] int RemedosPractice,
    [property: JsonRequired] int Level,
    [property: JsonRequired] int Seed,
    string? Check = null
)
{
    private const int Version = 1;

    /// <summary>The largest seed.</summary>
    public const int LargestSeed = 1_000_000;

    /// <summary>Of a case.</summary>
    public static PracticeFile Of(PracticeCase practice) => new(Version, practice.Level.Number, practice.Seed, practice.Check);

    /// <summary>Reads one and draws its case; null, with a sentence, when it cannot be.</summary>
    public static PracticeCase? Read(string text, out string? problem)
    {
        PracticeFile? file;
        try
        {
            file = JsonSerializer.Deserialize(text, TableJson.Default.PracticeFile);
        }
        catch (JsonException)
        {
            file = null;
        }

        return file is null ? Refused("This is no practice case: one holds “remedosPractice”, “level” and “seed”.", out problem)
            : file.RemedosPractice != Version
                ? Refused($"This case is of version {file.RemedosPractice}; this Remedos reads version {Version}.", out problem)
            : Drawn(file.Level, file.Seed, out problem) is not { } drawn ? null
            : file.Check is { } check && check != drawn.Check
                ? Refused("This case was drawn by another version of Remedos, and would be another machine here.", out problem)
            : drawn;
    }

    /// <summary>A case of a level and a seed; null, with a sentence, where there is none.</summary>
    public static PracticeCase? Drawn(int level, int seed, out string? problem)
    {
        problem = null;
        return PracticeLevel.Of(level) is not { } known ? Refused($"There is no level {level}.", out problem)
            : seed is < 0 or > LargestSeed ? Refused($"A seed lies between 0 and {LargestSeed}.", out problem)
            : PracticeCase.Draw(known, seed);
    }

    private static PracticeCase? Refused(string sentence, out string? problem)
    {
        problem = sentence;
        return null;
    }
}

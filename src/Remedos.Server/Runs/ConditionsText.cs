using System.Text.Json;
using Remedos.Core.Runs;
using Remedos.Server.Hosting;

namespace Remedos.Server.Runs;

/// <summary>Conditions that come with a log as the text of the file beside it (docs/formats.md).</summary>
internal static class ConditionsText
{
    private const int LongestText = 20_000;

    /// <summary>Null for no text; with a sentence where it cannot stand.</summary>
    public static RunConditions? Read(string? text, out string? wrong)
    {
        wrong = null;
        if (string.IsNullOrWhiteSpace(text))
        {
            return null;
        }

        if (text.Length > LongestText)
        {
            wrong = $"they are longer than {LongestText:0} letters.";
            return null;
        }

        try
        {
            RunConditions? read = JsonSerializer.Deserialize<RunConditions>(text, Lenient);
            wrong = read is null
                ? "expected JSON such as { \"ambientC\": 23.5 }."
                : read.Problems().Select(problem => $"{problem.Key}: {problem.Value}").FirstOrDefault();
            return wrong is null ? read : null;
        }
        catch (JsonException problem)
        {
            wrong =
                $"line {problem.LineNumber + 1}: expected JSON such as {{ \"ambientC\": 23.5 "
                + $"}}{(problem.Path is { Length: > 2 } path ? $"; “{path[2..]}” cannot be read" : "")}.";
            return null;
        }
    }

    /// <summary>A file may hold keys that another program wrote into it.</summary>
    private static readonly JsonSerializerOptions Lenient = new(WireJson.Strict)
    {
        UnmappedMemberHandling = System.Text.Json.Serialization.JsonUnmappedMemberHandling.Skip,
    };
}

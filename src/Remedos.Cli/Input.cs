using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using Remedos.Core.Logs;
using Remedos.Core.Runs;

namespace Remedos.Cli;

/// <summary>What the shell is told.</summary>
internal static class ExitStatus
{
    public const int Done = 0,
        NoAnswer = 1,
        BadInput = 2;
}

/// <summary>Unreadable input or bad usage: one line on standard error, exit 2.</summary>
internal sealed class InputException(string message) : Exception(message);

/// <summary>Reads logs and conditions from files.</summary>
internal static class Input
{
    /// <summary>Reads a log, with its conditions: those given, else NAME.conditions.json beside it, else none.</summary>
    public static (Log Log, RunConditions Conditions) Log(FileInfo log, FileInfo? conditionsFile)
    {
        if (!log.Exists)
        {
            throw new InputException($"{log}: there is no such file.");
        }

        RunConditions conditions = Conditions(log, conditionsFile);
        using FileStream stream = log.OpenRead();
        LogReading reading = LogReader.Read(stream);
        return reading.Log is null ? throw new InputException($"{log}: {reading.Problem!.Located}") : (reading.Log, conditions);
    }

    private static RunConditions Conditions(FileInfo log, FileInfo? given)
    {
        FileInfo file = given ?? new FileInfo(Path.ChangeExtension(log.FullName, null) + ".conditions.json");
        if (!file.Exists)
        {
            return given is null ? new RunConditions() : throw new InputException($"{given}: there is no such file.");
        }

        RunConditions conditions = Json(file, CliJson.Contract.RunConditions, "conditions as JSON, such as { \"ambientC\": 23.5 }");
        return conditions.Problems().FirstOrDefault() is { Key: { } field, Value: var problem }
            ? throw new InputException($"{file}: {field}: {problem}")
            : conditions;
    }

    /// <summary>Reads a JSON file; what cannot be read is told with its place and what was expected.</summary>
    public static T Json<T>(FileInfo file, JsonTypeInfo<T> type, string expected)
        where T : class
    {
        if (!file.Exists)
        {
            throw new InputException($"{file}: there is no such file.");
        }

        try
        {
            string text = File.ReadAllText(file.FullName);
            if (NullInList(text) is { } place)
            {
                throw new InputException($"{file}: expected {expected}; “{place}” holds nothing where a list has an entry.");
            }

            return JsonSerializer.Deserialize(text, type) ?? throw new InputException($"{file}: expected {expected}.");
        }
        catch (JsonException problem)
        {
            throw new InputException(
                $"{file}: line {problem.LineNumber + 1}, column {problem.BytePositionInLine + 1}: expected "
                    + $"{expected}"
                    + (
                        string.IsNullOrEmpty(problem.Path) || problem.Path == "$"
                            ? ""
                            : $"; “{problem.Path.TrimStart('$', '.')}” cannot be read"
                    )
                    + "."
            );
        }
    }

    /// <summary>Where a list holds null, which the serializer does not look for; null where none does.</summary>
    private static string? NullInList(string json)
    {
        using JsonDocument document = JsonDocument.Parse(
            json,
            new JsonDocumentOptions { CommentHandling = JsonCommentHandling.Skip, AllowTrailingCommas = true }
        );
        return Find(document.RootElement, "");

        static string? Find(JsonElement element, string path) =>
            element.ValueKind switch
            {
                JsonValueKind.Array => element
                    .EnumerateArray()
                    .Select((one, i) => one.ValueKind == JsonValueKind.Null ? $"{path}[{i}]" : Find(one, $"{path}[{i}]"))
                    .FirstOrDefault(found => found is not null),
                JsonValueKind.Object => element
                    .EnumerateObject()
                    .Select(member => Find(member.Value, path.Length == 0 ? member.Name : $"{path}.{member.Name}"))
                    .FirstOrDefault(found => found is not null),
                _ => null,
            };
    }
}

using System.Text;
using System.Text.Json;

namespace Remedos.Server.Hosting;

/// <summary>
/// Looks at every request of the API before anything else does: at its address for what no text can hold, and at its JSON for what the
/// serializer does not look at, a null in
/// a list, half a letter, a number beyond all measures. What it refuses, it names.
/// </summary>
internal sealed class RequestGuard(RequestDelegate next)
{
    /// <summary>No quantity of this trade is larger.</summary>
    private const double LargestNumber = 1e15;

    private const int DeepestJson = 48;

    private const long LargestJson = 4_000_000;

    public async Task InvokeAsync(HttpContext context)
    {
        HttpRequest request = context.Request;
        if (request.Path.StartsWithSegments("/api"))
        {
            if (await ProblemAsync(request) is var (status, sentence))
            {
                await TypedResults.Problem(sentence, statusCode: status).ExecuteAsync(context);
                return;
            }
        }

        await next(context);
    }

    private static async Task<(int Status, string Sentence)?> ProblemAsync(HttpRequest request)
    {
        if (
            request.Path.Value!.Contains('\0', StringComparison.Ordinal)
            || request.Query.Any(pair =>
                pair.Key.Contains('\0', StringComparison.Ordinal)
                || pair.Value.Any(value => value?.Contains('\0', StringComparison.Ordinal) == true)
            )
        )
        {
            return (StatusCodes.Status400BadRequest, "The address holds a letter that no text can hold.");
        }

        string type = request.ContentType ?? "";
        if (
            type.StartsWith("application/x-www-form-urlencoded", StringComparison.OrdinalIgnoreCase)
            || type.StartsWith("multipart/", StringComparison.OrdinalIgnoreCase)
        )
        {
            return (StatusCodes.Status415UnsupportedMediaType, "Forms are not taken here; JSON is.");
        }

        if (!type.StartsWith("application/json", StringComparison.OrdinalIgnoreCase))
        {
            return null;
        }

        if (type.Contains("charset", StringComparison.OrdinalIgnoreCase) && !type.Contains("utf-8", StringComparison.OrdinalIgnoreCase))
        {
            return (StatusCodes.Status415UnsupportedMediaType, "JSON is taken as UTF-8.");
        }

        if (request.ContentLength > LargestJson)
        {
            return (StatusCodes.Status413PayloadTooLarge, $"At most {LargestJson / 1e6:0} MB of JSON are taken.");
        }

        request.EnableBuffering(1 << 16, LargestJson);
        using MemoryStream body = new();
        await request.Body.CopyToAsync(body, request.HttpContext.RequestAborted);
        request.Body.Position = 0;
        return JsonProblem(body.GetBuffer().AsSpan(0, (int)body.Length)) is { } wrong ? (StatusCodes.Status400BadRequest, wrong) : null;
    }

    /// <summary>What is wrong with JSON, as a sentence; null for nothing that is looked for here.</summary>
    internal static string? JsonProblem(ReadOnlySpan<byte> json)
    {
        Utf8JsonReader reader = new(json, new JsonReaderOptions { MaxDepth = DeepestJson });
        Stack<string> path = new();
        string member = "";
        try
        {
            while (reader.Read())
            {
                switch (reader.TokenType)
                {
                    case JsonTokenType.PropertyName:
                        member = reader.GetString()!;
                        break;
                    case JsonTokenType.StartObject or JsonTokenType.StartArray:
                        path.Push(reader.TokenType == JsonTokenType.StartArray ? $"{member}[]" : member);
                        member = "";
                        break;
                    case JsonTokenType.EndObject or JsonTokenType.EndArray:
                        path.Pop();
                        break;
                    case JsonTokenType.Null when path.Count > 0 && path.Peek().EndsWith("[]", StringComparison.Ordinal):
                        return $"The request could not be read: {Where(path, member)} holds nothing where a list has an entry.";
                    case JsonTokenType.String when reader.GetString()!.Contains('\0', StringComparison.Ordinal):
                        return $"The request could not be read: {Where(path, member)} holds a letter that no text can hold.";
                    case JsonTokenType.Number when !(Math.Abs(reader.GetDouble()) <= LargestNumber):
                        return $"The request could not be read: {Where(path, member)} is larger than anything that is measured here.";
                    default:
                        break;
                }
            }

            return null;
        }
        catch (JsonException failure)
        {
            return $"The request is no JSON: line {failure.LineNumber + 1}, letter {failure.BytePositionInLine + 1} cannot be read.";
        }
        catch (InvalidOperationException)
        {
            return $"The request could not be read: {Where(path, member)} holds half a letter.";
        }
    }

    private static string Where(IEnumerable<string> path, string member)
    {
        string[] steps = [.. path.Reverse().Append(member).Where(step => step is { Length: > 0 and < 60 } and not "[]")];
        string where = new StringBuilder().AppendJoin('.', steps).ToString();
        return where.Length is 0 or > 120 ? "a value" : where;
    }
}

using System.Text.Json;

namespace Remedos.Server.Tests.Api;

/// <summary>An operation of the API, as its own description tells it.</summary>
/// <param name="Body">Schema of its JSON; null for none.</param>
internal sealed record ApiOperation(
    string Method,
    string Path,
    string Id,
    IReadOnlyList<(string Name, string In, JsonElement Schema)> Parameters,
    JsonElement? Body
)
{
    public bool Changes => Method != "GET";
}

/// <summary>Reads the API's description, and makes values that fit its schemas.</summary>
internal sealed class ApiDescription(JsonElement document)
{
    public IReadOnlyList<ApiOperation> Operations { get; } =
    [
        .. document
            .GetProperty("paths")
            .EnumerateObject()
            .SelectMany(path =>
                path.Value.EnumerateObject()
                    .Where(one => one.Name is "get" or "post" or "put" or "patch" or "delete")
                    .Select(one => new ApiOperation(
                        one.Name.ToUpperInvariant(),
                        path.Name,
                        one.Value.GetProperty("operationId").GetString()!,
                        one.Value.TryGetProperty("parameters", out JsonElement parameters)
                            ?
                            [
                                .. parameters
                                    .EnumerateArray()
                                    .Select(parameter =>
                                        (
                                            parameter.GetProperty("name").GetString()!,
                                            parameter.GetProperty("in").GetString()!,
                                            parameter.GetProperty("schema")
                                        )
                                    ),
                            ]
                            : [],
                        one.Value.TryGetProperty("requestBody", out JsonElement body)
                        && body.GetProperty("content").TryGetProperty("application/json", out JsonElement json)
                            ? json.GetProperty("schema")
                            : null
                    ))
            ),
    ];

    /// <summary>The schema itself, where another is referred to.</summary>
    public JsonElement Of(JsonElement schema) =>
        schema.TryGetProperty("$ref", out JsonElement reference)
            ? Of(document.GetProperty("components").GetProperty("schemas").GetProperty(reference.GetString()!.Split('/')[^1]))
        : schema.TryGetProperty("oneOf", out JsonElement any)
        && any.EnumerateArray()
            .Select(Of)
            .FirstOrDefault(one => !one.TryGetProperty("type", out JsonElement type) || type.ToString() != "null")
            is { ValueKind: JsonValueKind.Object } other
            ? other
        : schema;
}

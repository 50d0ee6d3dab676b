using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Schema;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using System.Text.Unicode;
using Remedos.Data;

namespace Remedos.Server.Bundles;

/// <summary>How rows are written into bundles and read back: as they are kept, without the ids that the nesting tells.</summary>
internal static class BundleJson
{
    private static readonly string[] ToldByPlace = ["WorkshopId", "JobId", "SetupId", "PlanId", "Version"];

    private static readonly JsonSerializerOptions Writing = Made(strict: false),
        Reading = Made(strict: true);

    public static byte[] Write<T>(T record) => JsonSerializer.SerializeToUtf8Bytes(record, Writing);

    /// <summary>Reads a record.</summary>
    /// <exception cref="BundleException">It is none, and where.</exception>
    public static T Read<T>(ReadOnlySpan<byte> json, string path)
        where T : class
    {
        try
        {
            return JsonSerializer.Deserialize<T>(json, Reading) ?? throw new BundleException($"cannot be read: {path} is empty.");
        }
        catch (JsonException problem)
        {
            string where = problem.Path is { Length: > 2 and < 200 } at ? $", at {at[2..]}" : "";
            throw new BundleException($"cannot be read: {path} is not what it should be{where}. docs/formats.md says what is in it.");
        }
    }

    /// <summary>
    /// The schemas (JSON Schema 2020-12) of what stands in bundles and archives, by file name; docs/schemas holds the same.
    /// </summary>
    public static IReadOnlyDictionary<string, string> Schemas { get; } =
        new Dictionary<string, string>(StringComparer.Ordinal)
        {
            ["manifest.schema.json"] = SchemaOf<Manifest>("What a Remedos bundle or archive is: remedos.json"),
            ["job.schema.json"] = SchemaOf<JobRecord>("A job in a Remedos bundle: job.json"),
            ["workshop.schema.json"] = SchemaOf<WorkshopRecord>("A workshop in a Remedos archive: workshop.json"),
        };

    private static string SchemaOf<T>(string title)
    {
        // A list has no gaps, and a record is there.
        JsonSchemaExporterOptions exact = new() { TreatNullObliviousAsNonNullable = true, TransformSchemaNode = MayBeNull };
        JsonObject schema = Reading.GetJsonSchemaAsNode(typeof(T), exact).AsObject();
        JsonObject whole = new()
        {
            ["$schema"] = "https://json-schema.org/draft/2020-12/schema",
            ["title"] = title,
            ["version"] = Manifest.Current,
        };
        foreach ((string name, JsonNode? value) in schema.ToList())
        {
            schema.Remove(name);
            whole[name] = value;
        }

        return whole.ToJsonString(new JsonSerializerOptions(Writing) { WriteIndented = true }) + "\n";
    }

    /// <summary>The framework leaves the null out of a number that may be NaN.</summary>
    private static JsonNode MayBeNull(JsonSchemaExporterContext context, JsonNode schema)
    {
        if (Nullable.GetUnderlyingType(context.TypeInfo.Type) is not null && schema is JsonObject { } one && one["anyOf"] is JsonArray any)
        {
            any.Add(new JsonObject { ["type"] = "null" });
        }

        return schema;
    }

    private static JsonSerializerOptions Made(bool strict) =>
        new(RemedosContext.Json)
        {
            // What is reckoned from the rest is not written.
            IgnoreReadOnlyProperties = true,
            Encoder = JavaScriptEncoder.Create(UnicodeRanges.All),
            UnmappedMemberHandling = strict ? JsonUnmappedMemberHandling.Disallow : JsonUnmappedMemberHandling.Skip,
            RespectNullableAnnotations = strict,
            RespectRequiredConstructorParameters = strict,
            TypeInfoResolver = new DefaultJsonTypeInfoResolver().WithAddedModifier(LeaveOut),
        };

    private static void LeaveOut(JsonTypeInfo type)
    {
        if (type.Type.Namespace?.StartsWith("Remedos.Data", StringComparison.Ordinal) == true)
        {
            foreach (JsonPropertyInfo told in type.Properties.Where(property => ToldByPlace.Contains(NameOf(property))).ToList())
            {
                type.Properties.Remove(told);
            }
        }
    }

    private static string NameOf(JsonPropertyInfo property) => char.ToUpperInvariant(property.Name[0]) + property.Name[1..];
}

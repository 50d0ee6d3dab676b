using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using Remedos.Server.Jobs;

namespace Remedos.Server.Hosting;

/// <summary>
/// How JSON is read and written on the wire: a null or a missing member where the type has none is refused, and so is a number that is
/// none.
/// </summary>
internal static class WireJson
{
    /// <summary>The same rules, for JSON that stands in a field.</summary>
    public static readonly JsonSerializerOptions Strict = Tightened(new JsonSerializerOptions(JsonSerializerDefaults.Web));

    public static JsonSerializerOptions Tightened(JsonSerializerOptions options)
    {
        options.NumberHandling = JsonNumberHandling.Strict;
        options.RespectNullableAnnotations = true;
        options.RespectRequiredConstructorParameters = true;
        options.Converters.Add(new FieldValuesConverter());
        // What may be null may be left out.
        options.TypeInfoResolver = new DefaultJsonTypeInfoResolver().WithAddedModifier(type =>
        {
            foreach (
                JsonPropertyInfo property in type.Properties.Where(property =>
                    property.IsRequired && property.AssociatedParameter is { IsNullable: true }
                )
            )
            {
                property.IsRequired = false;
            }
        });
        return options;
    }

    /// <summary>Whether a list in it, at any depth, holds a null: the serializer does not look into lists.</summary>
    public static bool HoldsNull(JsonElement json) =>
        json.ValueKind switch
        {
            JsonValueKind.Array => json.EnumerateArray().Any(one => one.ValueKind == JsonValueKind.Null || HoldsNull(one)),
            JsonValueKind.Object => json.EnumerateObject().Any(member => HoldsNull(member.Value)),
            _ => false,
        };

    /// <summary>Describes a job's fields, which are a table and no type.</summary>
    public static void Describe(OpenApiOptions options)
    {
        options.CreateSchemaReferenceId = type =>
            type.Type == typeof(JobFieldValues) ? nameof(JobFieldValues) : OpenApiOptions.CreateDefaultSchemaReferenceId(type);
        options.AddSchemaTransformer(
            (schema, context, _) =>
            {
                if (context.JsonTypeInfo.Type == typeof(JobFieldValues))
                {
                    JobFieldRow[] rows = [.. JobFields.All.Select(field => field.Row).Where(row => !row.Elsewhere)];
                    schema.Type = JsonSchemaType.Object;
                    schema.Properties = rows.ToDictionary(row => row.Name, row => (IOpenApiSchema)SchemaOf(row), StringComparer.Ordinal);
                    schema.Required = rows.Select(row => row.Name).ToHashSet(StringComparer.Ordinal);
                }

                return Task.CompletedTask;
            }
        );
    }

    private static OpenApiSchema SchemaOf(JobFieldRow row)
    {
        OpenApiSchema schema = row.Kind switch
        {
            JobFieldRow.Number or JobFieldRow.Temperature => new()
            {
                Type = JsonSchemaType.Number | JsonSchemaType.Null,
                Format = "double",
            },
            JobFieldRow.Whole => new() { Type = JsonSchemaType.Integer | JsonSchemaType.Null, Format = "int32" },
            JobFieldRow.Date => new() { Type = JsonSchemaType.String | JsonSchemaType.Null, Format = "date" },
            JobFieldRow.Instant => new() { Type = JsonSchemaType.String | JsonSchemaType.Null, Format = "date-time" },
            JobFieldRow.Choice => new()
            {
                Type = JsonSchemaType.String | JsonSchemaType.Null,
                Enum = [.. row.Choices!.Select(choice => (JsonNode)choice[0]), null!],
            },
            JobFieldRow.Causes => new()
            {
                Type = JsonSchemaType.Array,
                Items = new OpenApiSchema { Type = JsonSchemaType.String },
            },
            _ => new() { Type = JsonSchemaType.String | JsonSchemaType.Null },
        };
        schema.Title = row.Words;
        return schema;
    }

    private sealed class FieldValuesConverter : JsonConverter<JobFieldValues>
    {
        public override JobFieldValues Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            throw new NotSupportedException();

        public override void Write(Utf8JsonWriter writer, JobFieldValues value, JsonSerializerOptions options) =>
            JsonSerializer.Serialize(writer, value.Values, options);
    }
}

using System.Globalization;
using System.Text.Json;
using Remedos.Core;
using Remedos.Core.Diagnosis;
using Remedos.Core.Machines;
using Remedos.Core.Options;
using Remedos.Server.Hosting;

namespace Remedos.Server.Jobs;

/// <summary>Reads what is sent for a field, or says in a sentence why it cannot stand there.</summary>
internal static class FieldReading
{
    private static readonly DateTimeOffset Earliest = new(1980, 1, 1, 0, 0, 0, TimeSpan.Zero);

    /// <summary>How a field of this kind is read; a kind that there is not ends the program at its start.</summary>
    public static Func<JsonElement, DateOnly, object?> Of(JobFieldRow row) =>
        row.Kind switch
        {
            JobFieldRow.Line or JobFieldRow.Text => (json, _) => TextOf(row, json),
            JobFieldRow.Choice => (json, _) => ChoiceOf(row, json),
            JobFieldRow.Number or JobFieldRow.Temperature => (json, _) => NumberOf(row, json),
            JobFieldRow.Whole => (json, _) => NumberOf(row, json) is { } number ? (int)Math.Round(number) : null,
            JobFieldRow.Money => (json, _) => NumberOf(row, json) is { } minor ? (long)Math.Round(minor) : null,
            JobFieldRow.Date => (json, today) => DateOf(row, json, today),
            JobFieldRow.Instant => (json, today) => InstantOf(row, json, today),
            JobFieldRow.Person => (json, _) => PersonOf(json),
            JobFieldRow.Causes => (json, _) => CausesOf(json),
            JobFieldRow.AirPlan => (json, _) =>
                ObjectOf<AirPlan>(json, "a plan of fans and headers", whole => whole, plan => plan.Problem()),
            JobFieldRow.OptionChoice => (json, _) =>
                ObjectOf<OptionChoice>(json, "an option with its quote", whole => whole.GetProperty("lines"), choice => choice.Problem()),
            _ => throw new InvalidDataException($"job-fields.json: “{row.Kind}” of {row.Name} is no kind of field."),
        };

    private static string? TextOf(JobFieldRow row, JsonElement json)
    {
        string? text = StringOf(json, "text");
        return string.IsNullOrWhiteSpace(text) ? null
            : text.Length <= row.LongestText ? text
            : throw new FieldException($"At most {row.LongestText} letters fit here.");
    }

    private static string? ChoiceOf(JobFieldRow row, JsonElement json)
    {
        string? text = StringOf(json, "text");
        return string.IsNullOrWhiteSpace(text) ? null
            : Array.Exists(row.Choices!, choice => choice[0] == text) ? text
            : throw new FieldException($"Expected one of {string.Join(", ", row.Choices!.Select(choice => choice[0]))}.");
    }

    private static double? NumberOf(JobFieldRow row, JsonElement json)
    {
        if (json.ValueKind == JsonValueKind.Null)
        {
            return null;
        }

        return json.ValueKind != JsonValueKind.Number || !json.TryGetDouble(out double number)
                ? throw new FieldException("Expected a number.")
            : !(number >= row.Least && number <= row.Most) ? throw new FieldException(OutOfBounds(row))
            : number;
    }

    private static string OutOfBounds(JobFieldRow row)
    {
        (string least, string most) =
            row.Kind == JobFieldRow.Temperature
                ? (Degrees.At(row.Least), Degrees.At(row.Most))
                : ($"{row.Least:0}", $"{row.Most:0} {row.Unit}");
        return (row.Wrong ?? "Expected {least} to {most}.")
            .Replace("{least}", least, StringComparison.Ordinal)
            .Replace("{most}", most, StringComparison.Ordinal);
    }

    private static DateOnly? DateOf(JobFieldRow row, JsonElement json, DateOnly today)
    {
        if (StringOf(json, "a date") is not { Length: > 0 } text)
        {
            return null;
        }

        return !DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out DateOnly date)
                ? throw new FieldException("Expected a date.")
            : date.Year < Earliest.Year || (row.Past && date > today)
                ? throw new FieldException($"Expected a date after {Earliest.Year} that is not still to come.")
            : date.Year > 2200 ? throw new FieldException("Expected a date before the year 2200.")
            : date;
    }

    private static DateTimeOffset? InstantOf(JobFieldRow row, JsonElement json, DateOnly today)
    {
        if (json.ValueKind == JsonValueKind.Null)
        {
            return null;
        }

        // A clock may be a little ahead of the server's.
        return json.ValueKind != JsonValueKind.String || !json.TryGetDateTimeOffset(out DateTimeOffset at)
                ? throw new FieldException("Expected a date and time.")
            : at < Earliest || (row.Past && today < DateOnly.MaxValue && DateOnly.FromDateTime(at.UtcDateTime) > today.AddDays(1))
                ? throw new FieldException($"Expected a moment after {Earliest.Year} that is not still to come.")
            : at.ToUniversalTime();
    }

    /// <summary>Somebody by the id; whoever has left, or came with another workshop's bundle, is nobody to the plan.</summary>
    private static Guid? PersonOf(JsonElement json) =>
        StringOf(json, "somebody’s id") is not { Length: > 0 } text ? null
        : Guid.TryParseExact(text, "D", out Guid id) ? id
        : throw new FieldException("Expected somebody’s id.");

    /// <summary>The causes that were found, as a list of ids; sorted, so that the same ones are the same value.</summary>
    private static string[] CausesOf(JsonElement json)
    {
        if (json.ValueKind == JsonValueKind.Null)
        {
            return [];
        }

        if (json.ValueKind != JsonValueKind.Array || json.EnumerateArray().Any(one => one.ValueKind != JsonValueKind.String))
        {
            throw new FieldException("Expected a list of causes.");
        }

        string[] ids = [.. json.EnumerateArray().Select(one => StringOf(one, "text")!).Distinct().Order(StringComparer.Ordinal)];
        return ids.FirstOrDefault(id => DiagnosisTables.Causes.All(cause => cause.Id != id)) is { } unknown
            ? throw new FieldException($"There is no cause “{unknown}”.")
            : ids;
    }

    /// <summary>What is sent as a whole.</summary>
    /// <param name="json">The object, or null.</param>
    /// <param name="expected">What it is, in the middle of a sentence.</param>
    /// <param name="full">The part of it that may hold no null.</param>
    /// <param name="problemOf">What speaks against one that can be read, as a sentence.</param>
    private static T? ObjectOf<T>(JsonElement json, string expected, Func<JsonElement, JsonElement> full, Func<T, string?> problemOf)
        where T : class
    {
        if (json.ValueKind == JsonValueKind.Null)
        {
            return null;
        }

        T? value = null;
        try
        {
            value = json.Deserialize<T>(WireJson.Strict);
        }
        catch (JsonException)
        {
            // Told below like any other that cannot be.
        }

        return value is null || WireJson.HoldsNull(full(json)) ? throw new FieldException($"Expected {expected}.")
            : problemOf(value) is { } problem ? throw new FieldException(problem)
            : value;
    }

    public static string? StringOf(JsonElement json, string expected)
    {
        if (json.ValueKind is not (JsonValueKind.String or JsonValueKind.Null))
        {
            throw new FieldException($"Expected {expected}.");
        }

        try
        {
            // PostgreSQL keeps no NUL in text, and no technician types one.
            return json.GetString()?.Replace("\0", "", StringComparison.Ordinal);
        }
        catch (InvalidOperationException)
        {
            throw new FieldException("This text holds half a letter; type it again.");
        }
    }
}

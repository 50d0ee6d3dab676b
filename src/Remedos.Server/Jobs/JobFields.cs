using System.Globalization;
using System.Linq.Expressions;
using System.Reflection;
using System.Text.Json;
using Remedos.Core.Airflow;
using Remedos.Core.Diagnosis;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Server.Hosting;

namespace Remedos.Server.Jobs;

/// <summary>A row of job-fields.json: all that is said of a field, for the server, the page and the forms.</summary>
/// <param name="Name">As on the wire.</param>
/// <param name="Label">Over it in a form.</param>
/// <param name="Words">In the middle of a sentence: “room (Ines, an hour ago)”.</param>
/// <param name="Kind">line, text, number, whole, date, instant, choice, causes or air-plan.</param>
/// <param name="Property">Where it stands in a job; by its name where it is not said.</param>
/// <param name="Past">Whether it cannot lie in days to come.</param>
/// <param name="Kept">Whether a machine brings it along when it comes back.</param>
/// <param name="Elsewhere">Whether it travels by a page of its own and not with the sheet.</param>
/// <param name="Wrong">The sentence for what is out of bounds; made from the bounds where there is none.</param>
public sealed record JobFieldRow(
    string Name, string Label, string Words, string Kind, string? Unit = null, double? Least = null, double? Most = null, string[][]? Choices = null,
    string? Property = null, bool Past = false, bool Kept = false, bool Elsewhere = false, string? Wrong = null)
{
    public const string Line = "line", Text = "text", Number = "number", Whole = "whole", Date = "date", Instant = "instant", Choice = "choice", Causes = "causes", AirPlan = "air-plan";

    public int LongestText => Kind == Line ? 200 : 4000;
}

/// <summary>A field of a job that saves as it is typed: how it is read, checked, written and named.</summary>
/// <param name="Get">Its value.</param>
/// <param name="Set">Sets what <paramref name="Read"/> has read.</param>
/// <param name="Read">Reads JSON, at a moment and a day where the workshop stands; throws <see cref="FieldException"/> with the sentence for what cannot be.</param>
public sealed record JobField(JobFieldRow Row, Func<Job, object?> Get, Action<Job, object?> Set, Func<JsonElement, DateOnly, object?> Read)
{
    public string Name => Row.Name;

    /// <summary>The value as canonical JSON, for events and for telling whether it changed under somebody's hands.</summary>
    public string Json(Job job) => JsonOf(Get(job));

    /// <summary>Sets it from JSON; a sentence when it cannot stand.</summary>
    public string? TrySet(Job job, JsonElement json, DateOnly today)
    {
        try
        {
            Set(job, Read(json, today));
            return null;
        }
        catch (FieldException problem)
        {
            return problem.Message;
        }
    }

    /// <summary>Sets it to what an event has written down; that stood once and is not checked again.</summary>
    public void Restore(Job job, string json) => Set(job, Read(JsonSerializer.Deserialize<JsonElement>(json), DateOnly.MaxValue));

    /// <summary>JSON as it would be stored, so that "70" and "70.0" are the same; null for what is none of its values.</summary>
    public string Canonical(JsonElement json)
    {
        try
        {
            return json.ValueKind == JsonValueKind.Undefined ? "null" : JsonOf(Read(json, DateOnly.MaxValue));
        }
        catch (FieldException)
        {
            return "null";
        }
    }

    public string Canonical(string json) => Canonical(JsonSerializer.Deserialize<JsonElement>(json));

    /// <summary>An empty list is no value, as an empty text is none.</summary>
    private string JsonOf(object? value) =>
        JsonSerializer.Serialize(value is null && Row.Kind == JobFieldRow.Causes ? Array.Empty<string>() : value, RemedosContext.Json);
}

/// <summary>Why a field cannot hold something, as a sentence.</summary>
public sealed class FieldException(string sentence) : Exception(sentence);

/// <summary>Every field that a page may change, from the one table that saving, checks, undo, history, the API's description and the forms are made from.</summary>
public static class JobFields
{
    private const string EvidencePrefix = "evidence.", DoubtMark = "?";

    private static readonly DateTimeOffset Earliest = new(1980, 1, 1, 0, 0, 0, TimeSpan.Zero);

    public static IReadOnlyList<JobField> All { get; } = Load();

    private static readonly Dictionary<string, JobField> ByName = All.ToDictionary(field => field.Name, StringComparer.Ordinal);

    /// <summary>A field by its name; “evidence.” before an observation's id is one as well.</summary>
    public static JobField? Find(string name) => ByName.GetValueOrDefault(name)
        ?? (name.StartsWith(EvidencePrefix, StringComparison.Ordinal) && DiagnosisTables.EvidenceOf(name[EvidencePrefix.Length..]) is { } row ? Observation(name, row) : null);

    /// <summary>What hands and eyes have told, by the observation's id.</summary>
    public static IReadOnlyDictionary<string, string> Observed(Job job) => job.Observations.ToDictionary(item => item.Id, Marked, StringComparer.Ordinal);

    private static string Marked(EvidenceItem item) => item.State + (item.Doubtful ? DoubtMark : "");

    private static JobField[] Load()
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream("Remedos.Server.Jobs.job-fields.json")!;
        return [.. JsonSerializer.Deserialize<JobFieldRow[]>(stream, JsonSerializerOptions.Web)!.Select(Bound)];
    }

    /// <summary>Binds a row to its property; a row that has none ends the program at its start.</summary>
    private static JobField Bound(JobFieldRow row)
    {
        ParameterExpression job = Expression.Parameter(typeof(Job)), value = Expression.Parameter(typeof(object));
        string path = row.Property ?? char.ToUpperInvariant(row.Name[0]) + row.Name[1..];
        Expression property = path.Split('.').Aggregate((Expression)job, Expression.Property);
        Action<Job, object?> set = Expression.Lambda<Action<Job, object?>>(Expression.Assign(property, Expression.Convert(value, property.Type)), job, value).Compile();
        return new JobField(
            row,
            Expression.Lambda<Func<Job, object?>>(Expression.Convert(property, typeof(object)), job).Compile(),
            row.Kind == JobFieldRow.Causes ? (at, causes) => set(at, causes ?? Array.Empty<string>()) : set,
            row.Kind switch
            {
                JobFieldRow.Line or JobFieldRow.Text => (json, _) => TextOf(row, json),
                JobFieldRow.Choice => (json, _) => ChoiceOf(row, json),
                JobFieldRow.Number => (json, _) => NumberOf(row, json),
                JobFieldRow.Whole => (json, _) => NumberOf(row, json) is { } number ? (int)Math.Round(number) : null,
                JobFieldRow.Date => (json, today) => DateOf(row, json, today),
                JobFieldRow.Instant => (json, today) => InstantOf(row, json, today),
                JobFieldRow.Causes => (json, _) => CausesOf(json),
                JobFieldRow.AirPlan => (json, _) => AirPlanOf(json),
                _ => throw new InvalidDataException($"job-fields.json: “{row.Kind}” of {row.Name} is no kind of field."),
            });
    }

    private static string? TextOf(JobFieldRow row, JsonElement json)
    {
        string? text = StringOf(json, "text");
        return string.IsNullOrWhiteSpace(text) ? null : text.Length <= row.LongestText ? text : throw new FieldException($"At most {row.LongestText} letters fit here.");
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

        return json.ValueKind != JsonValueKind.Number || !json.TryGetDouble(out double number) ? throw new FieldException("Expected a number.")
            : !(number >= row.Least && number <= row.Most) ? throw new FieldException(row.Wrong ?? $"Expected {row.Least:0} to {row.Most:0} {row.Unit}.")
            : number;
    }

    private static DateOnly? DateOf(JobFieldRow row, JsonElement json, DateOnly today)
    {
        if (StringOf(json, "a date") is not { Length: > 0 } text)
        {
            return null;
        }

        return !DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out DateOnly date) ? throw new FieldException("Expected a date.")
            : date.Year < Earliest.Year || (row.Past && date > today) ? throw new FieldException($"Expected a date after {Earliest.Year} that is not still to come.")
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
        return json.ValueKind != JsonValueKind.String || !json.TryGetDateTimeOffset(out DateTimeOffset at) ? throw new FieldException("Expected a date and time.")
            : at < Earliest || (row.Past && today < DateOnly.MaxValue && DateOnly.FromDateTime(at.UtcDateTime) > today.AddDays(1))
                ? throw new FieldException($"Expected a moment after {Earliest.Year} that is not still to come.")
            : at.ToUniversalTime();
    }

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
        return ids.FirstOrDefault(id => DiagnosisTables.Causes.All(cause => cause.Id != id)) is { } unknown ? throw new FieldException($"There is no cause “{unknown}”.") : ids;
    }

    private static AirPlan? AirPlanOf(JsonElement json)
    {
        if (json.ValueKind == JsonValueKind.Null)
        {
            return null;
        }

        AirPlan? plan = null;
        try
        {
            plan = json.Deserialize<AirPlan>(WireJson.Strict);
        }
        catch (JsonException)
        {
            // Told below like any other that cannot be.
        }

        return plan is null || WireJson.HoldsNull(json) ? throw new FieldException("Expected a plan of fans and headers.") : plan.Problem() is { } problem ? throw new FieldException(problem) : plan;
    }

    /// <summary>An observation's state, with a question mark behind it when it is doubtful.</summary>
    private static JobField Observation(string name, EvidenceRow row) => new(
        new JobFieldRow(name, row.Title, row.Title, JobFieldRow.Choice),
        job => job.Observations.FirstOrDefault(item => item.Id == row.Id) is { } item ? Marked(item) : null,
        (job, value) =>
        {
            string? text = (string?)value;
            EvidenceItem[] others = [.. job.Observations.Where(item => item.Id != row.Id)];
            job.Observations = text is null ? others : [.. others, new EvidenceItem(row.Id, text.TrimEnd(DoubtMark[0]), text.EndsWith(DoubtMark, StringComparison.Ordinal))];
        },
        (json, _) => StringOf(json, "text") is not { } text ? null
            : row.States.Contains(text.TrimEnd(DoubtMark[0])) ? text
            : throw new FieldException($"“{row.Title}” is one of {string.Join(", ", row.States)}, not “{text}”."));

    private static string? StringOf(JsonElement json, string expected)
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

/// <summary>A job's fields as a page shows them, by name; what they are stands in job-fields.json, and the API's description is made from it.</summary>
public sealed class JobFieldValues(IReadOnlyDictionary<string, object?> values)
{
    public IReadOnlyDictionary<string, object?> Values => values;

    public static JobFieldValues Of(Job job) =>
        new(JobFields.All.Where(field => !field.Row.Elsewhere).ToDictionary(field => field.Name, field => field.Get(job), StringComparer.Ordinal));
}

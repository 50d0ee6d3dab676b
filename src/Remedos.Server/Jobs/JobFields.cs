using System.Globalization;
using System.Linq.Expressions;
using System.Reflection;
using System.Text.Json;
using System.Text.RegularExpressions;
using Remedos.Core;
using Remedos.Core.Diagnosis;
using Remedos.Core.Machines;
using Remedos.Core.Options;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Server.Hosting;
using Remedos.Server.Repair;

namespace Remedos.Server.Jobs;

/// <summary>A row of job-fields.json: all that is said of a field, for the server, the page and the forms.</summary>
/// <param name="Name">As on the wire.</param>
/// <param name="Label">Over it in a form.</param>
/// <param name="Words">In the middle of a sentence: “room (Ines, an hour ago)”.</param>
/// <param name="Kind">line, text, number, whole, date, instant, choice, person, causes, air-plan or option-choice.</param>
/// <param name="Property">Where it stands in a job; by its name where it is not said.</param>
/// <param name="Past">Whether it cannot lie in days to come.</param>
/// <param name="Kept">Whether a machine brings it along when it comes back.</param>
/// <param name="Elsewhere">Whether it travels by a page of its own and not with the sheet.</param>
/// <param name="Wrong">
/// The sentence for what is out of bounds, “{least}” and “{most}” filled in; made from the bounds where there is none.
/// </param>
public sealed record JobFieldRow(
    string Name,
    string Label,
    string Words,
    string Kind,
    string? Unit = null,
    double? Least = null,
    double? Most = null,
    string[][]? Choices = null,
    string? Property = null,
    bool Past = false,
    bool Kept = false,
    bool Elsewhere = false,
    string? Wrong = null
)
{
    public const string Line = "line",
        Text = "text",
        Number = "number",
        Temperature = "temperature",
        Whole = "whole",
        Money = "money",
        Date = "date",
        Instant = "instant",
        Choice = "choice",
        Person = "person",
        Causes = "causes",
        AirPlan = "air-plan",
        OptionChoice = "option-choice";

    public int LongestText => Kind == Line ? 200 : 4000;
}

/// <summary>A field of a job that saves as it is typed: how it is read, checked, written and named.</summary>
/// <param name="Get">Its value.</param>
/// <param name="Set">Sets what <paramref name="Read"/> has read.</param>
/// <param name="Read">Reads JSON, at a moment and a day where the workshop stands; throws <see cref="FieldException"/> with the sentence
/// for what cannot be.</param>
public sealed record JobField(JobFieldRow Row, Func<Job, object?> Get, Action<Job, object?> Set, Func<JsonElement, DateOnly, object?> Read)
{
    public string Name => Row.Name;

    /// <summary>Whether the job has what this is a field of; a setup or a mount may not be there.</summary>
    public Func<Job, bool> Exists { get; init; } = _ => true;

    /// <summary>The value as canonical JSON, for events and for telling whether it changed under somebody's hands.</summary>
    public string Json(Job job) => JsonOf(Get(job));

    /// <summary>What speaks against a value that is readable, as a sentence; only the job can tell.</summary>
    public Func<Job, object?, string?>? Check { get; init; }

    /// <summary>Sets it from JSON; a sentence when it cannot stand.</summary>
    public string? TrySet(Job job, JsonElement json, DateOnly today)
    {
        try
        {
            object? value = Read(json, today);
            if (Check?.Invoke(job, value) is { } sentence)
            {
                return sentence;
            }

            Set(job, value);
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

/// <summary>
/// Every field that a page may change, from the one table that saving, checks, undo, history, the API's description and the forms are made
/// from.
/// </summary>
public static partial class JobFields
{
    /// <summary>Before an observation's id.</summary>
    public const string EvidencePrefix = "evidence.";

    private const string DoubtMark = "?";

    private static readonly DateTimeOffset Earliest = new(1980, 1, 1, 0, 0, 0, TimeSpan.Zero);

    public static IReadOnlyList<JobField> All { get; } =
    [.. Bound<Job>("job-fields").Values.Select(field => Of(field.Row, field, job => job))];

    private static readonly Dictionary<string, BoundField<Setup>> SetupFields = Bound<Setup>("setup-fields");

    private static readonly Dictionary<string, BoundField<Mount>> MountFields = Bound<Mount>("mount-fields");

    private static readonly Dictionary<string, JobField> ByName = All.ToDictionary(field => field.Name, StringComparer.Ordinal);

    /// <summary>A field by its name; “evidence.” before an observation's id is one as well.</summary>
    public static JobField? Find(string name) =>
        ByName.GetValueOrDefault(name)
        ?? (
            name.StartsWith(EvidencePrefix, StringComparison.Ordinal)
            && DiagnosisTables.EvidenceOf(name[EvidencePrefix.Length..]) is { } row
                ? Observation(name, row)
            : SetupName().Match(name) is { Success: true } setup
            && SetupFields.TryGetValue(setup.Groups[2].Value, out BoundField<Setup>? its)
                ? Of(its.Row with { Name = name }, its, job => SetupOf(job, NumberIn(setup, 1)))
            : MountName().Match(name) is { Success: true } mount
            && MountFields.TryGetValue(mount.Groups[3].Value, out BoundField<Mount>? part)
                ? Of(part.Row with { Name = name }, part, job =>
                    SetupOf(job, NumberIn(mount, 1))?.Mounts.Find(one => one.Number == NumberIn(mount, 2) && one.RemovedAt is null)
                )
            : PlanFields.Find(name)
        );

    /// <summary>Every field that a job has, those of its setups and mounts and what was observed as well.</summary>
    public static IEnumerable<JobField> Of(Job job) =>
        [
            .. All,
            .. job.Observations.Select(item => Find(EvidencePrefix + item.Id) ?? Unknown(EvidencePrefix + item.Id)),
            .. job
                .Setups.Where(setup => setup.RemovedAt is null)
                .SelectMany(setup =>
                    SetupFields
                        .Keys.Select(name => $"setup.{setup.Number}.{name}")
                        .Concat(
                            setup
                                .Mounts.Where(mount => mount.RemovedAt is null)
                                .SelectMany(mount => MountFields.Keys.Select(name => $"mount.{setup.Number}.{mount.Number}.{name}"))
                        )
                )
                .Select(name => Find(name) ?? Unknown(name)),
        ];

    /// <summary>A field that this program does not know: it reads nothing.</summary>
    private static JobField Unknown(string name) =>
        new(
            new JobFieldRow(name, name, name, JobFieldRow.Text),
            _ => null,
            (_, _) => { },
            (_, _) => throw new FieldException("There is no such observation.")
        );

    /// <summary>Values of a setup's own fields, by name.</summary>
    public static IReadOnlyDictionary<string, object?> ValuesOf(Setup setup) =>
        SetupFields.ToDictionary(field => field.Key, field => field.Value.Get(setup), StringComparer.Ordinal);

    /// <summary>Values of a mount's fields, by name.</summary>
    public static IReadOnlyDictionary<string, object?> ValuesOf(Mount mount) =>
        MountFields.ToDictionary(field => field.Key, field => field.Value.Get(mount), StringComparer.Ordinal);

    [GeneratedRegex(@"^setup\.([1-9]\d{0,3})\.([A-Za-z]+)$")]
    private static partial Regex SetupName();

    [GeneratedRegex(@"^mount\.([1-9]\d{0,3})\.([1-9]\d{0,3})\.([A-Za-z]+)$")]
    private static partial Regex MountName();

    private static int NumberIn(Match name, int group) => int.Parse(name.Groups[group].Value, CultureInfo.InvariantCulture);

    private static Setup? SetupOf(Job job, int number) => job.Setups.Find(setup => setup.Number == number && setup.RemovedAt is null);

    private static string Property(JobFieldRow row) => char.ToUpperInvariant(row.Name[0]) + row.Name[1..];

    /// <summary>What hands and eyes have told, by the observation's id.</summary>
    public static IReadOnlyDictionary<string, string> Observed(Job job) =>
        job.Observations.ToDictionary(item => item.Id, Marked, StringComparer.Ordinal);

    private static string Marked(EvidenceItem item) => item.State + (item.Doubtful ? DoubtMark : "");

    private static JobFieldRow[] Rows(string table)
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream($"Remedos.Server.Jobs.{table}.json")!;
        return JsonSerializer.Deserialize<JobFieldRow[]>(stream, JsonSerializerOptions.Web)!;
    }

    /// <summary>A row with its property, whosever it is.</summary>
    private sealed record BoundField<T>(
        JobFieldRow Row,
        Func<T, object?> Get,
        Action<T, object?> Set,
        Func<JsonElement, DateOnly, object?> Read
    );

    private static Dictionary<string, BoundField<T>> Bound<T>(string table) =>
        Rows(table).Select(Bound<T>).ToDictionary(field => field.Row.Name, StringComparer.Ordinal);

    /// <summary>A field of a job, or of something that it may have.</summary>
    private static JobField Of<T>(JobFieldRow row, BoundField<T> field, Func<Job, T?> of)
        where T : class =>
        new(
            row,
            job => of(job) is { } its ? field.Get(its) : null,
            (job, value) => field.Set(of(job)!, row.Kind == JobFieldRow.Causes ? value ?? Array.Empty<string>() : value),
            field.Read
        )
        {
            Exists = job => of(job) is not null,
        };

    /// <summary>Binds a row to its property; a row that has none ends the program at its start.</summary>
    private static BoundField<T> Bound<T>(JobFieldRow row)
    {
        ParameterExpression its = Expression.Parameter(typeof(T)),
            value = Expression.Parameter(typeof(object));
        Expression property = (row.Property ?? Property(row)).Split('.').Aggregate((Expression)its, Expression.Property);
        return new BoundField<T>(
            row,
            Expression.Lambda<Func<T, object?>>(Expression.Convert(property, typeof(object)), its).Compile(),
            Expression
                .Lambda<Action<T, object?>>(Expression.Assign(property, Expression.Convert(value, property.Type)), its, value)
                .Compile(),
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
                JobFieldRow.AirPlan => (json, _) => AirPlanOf(json),
                JobFieldRow.OptionChoice => (json, _) => ChoiceOfOptions(json),
                _ => throw new InvalidDataException($"job-fields.json: “{row.Kind}” of {row.Name} is no kind of field."),
            }
        );
    }

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

        return plan is null || WireJson.HoldsNull(json) ? throw new FieldException("Expected a plan of fans and headers.")
            : plan.Problem() is { } problem ? throw new FieldException(problem)
            : plan;
    }

    private static OptionChoice? ChoiceOfOptions(JsonElement json)
    {
        if (json.ValueKind == JsonValueKind.Null)
        {
            return null;
        }

        OptionChoice? choice = null;
        try
        {
            choice = json.Deserialize<OptionChoice>(WireJson.Strict);
        }
        catch (JsonException)
        {
            // Told below like any other that cannot be.
        }

        return choice is null || WireJson.HoldsNull(json.GetProperty("lines"))
                ? throw new FieldException("Expected an option with its quote.")
            : choice.Problem() is { } problem ? throw new FieldException(problem)
            : choice;
    }

    /// <summary>An observation's state, with a question mark behind it when it is doubtful.</summary>
    private static JobField Observation(string name, EvidenceRow row) =>
        new(
            new JobFieldRow(name, row.Title, row.Title, JobFieldRow.Choice),
            job => job.Observations.FirstOrDefault(item => item.Id == row.Id) is { } item ? Marked(item) : null,
            (job, value) =>
            {
                string? text = (string?)value;
                EvidenceItem[] others = [.. job.Observations.Where(item => item.Id != row.Id)];
                job.Observations = text is null
                    ? others
                    : [.. others, new EvidenceItem(row.Id, text.TrimEnd(DoubtMark[0]), text.EndsWith(DoubtMark, StringComparison.Ordinal))];
            },
            (json, _) =>
                StringOf(json, "text") is not { } text ? null
                : row.States.Contains(text.TrimEnd(DoubtMark[0])) ? text
                : throw new FieldException($"“{row.Title}” is one of {string.Join(", ", row.States)}, not “{text}”.")
        );

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

/// <summary>
/// A job's fields as a page shows them, by name; what they are stands in job-fields.json, and the API's description is made from it.
/// </summary>
public sealed class JobFieldValues(IReadOnlyDictionary<string, object?> values)
{
    public IReadOnlyDictionary<string, object?> Values => values;

    public static JobFieldValues Of(Job job) =>
        new(
            JobFields
                .All.Where(field => !field.Row.Elsewhere)
                .ToDictionary(field => field.Name, field => field.Get(job), StringComparer.Ordinal)
        );
}

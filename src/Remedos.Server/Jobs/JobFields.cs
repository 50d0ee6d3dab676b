using System.Globalization;
using System.Linq.Expressions;
using System.Reflection;
using System.Text.Json;
using System.Text.RegularExpressions;
using Remedos.Core.Diagnosis;
using Remedos.Data.Jobs;
using Remedos.Server.Repair;

namespace Remedos.Server.Jobs;

/// <summary>
/// Every field that a page may change, from the one table that saving, checks, undo, history, the API's description and the forms are made
/// from.
/// </summary>
public static partial class JobFields
{
    /// <summary>Before an observation's id.</summary>
    public const string EvidencePrefix = "evidence.";

    private const string DoubtMark = "?";

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
            FieldReading.Of(row)
        );
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
                FieldReading.StringOf(json, "text") is not { } text ? null
                : row.States.Contains(text.TrimEnd(DoubtMark[0])) ? text
                : throw new FieldException($"“{row.Title}” is one of {string.Join(", ", row.States)}, not “{text}”.")
        );
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

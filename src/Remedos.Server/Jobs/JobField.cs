using System.Text.Json;
using Remedos.Data;
using Remedos.Data.Jobs;

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

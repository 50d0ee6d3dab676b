using System.Globalization;
using System.Text.Json;
using Remedos.Core.Airflow;
using Remedos.Core.Diagnosis;
using Remedos.Data;
using Remedos.Data.Jobs;

namespace Remedos.Server.Jobs;

/// <summary>A field of a job that saves as it is typed: how it is read, written and named.</summary>
/// <param name="Name">As on the wire.</param>
/// <param name="Property">Path of the property, for the validator.</param>
/// <param name="Get">Its value.</param>
/// <param name="TrySet">Sets it from JSON; a sentence when the JSON is no such value.</param>
public sealed record JobField(string Name, string Property, Func<Job, object?> Get, Func<Job, JsonElement, string?> TrySet)
{
    /// <summary>The value as canonical JSON, for events and for telling whether it changed under somebody's hands.</summary>
    public string Json(Job job) => JsonSerializer.Serialize(Get(job), RemedosContext.Json);
}

/// <summary>Every field that a page may change. One table, so that saving, undo, history and conflicts treat all alike.</summary>
public static class JobFields
{
    private static readonly Dictionary<string, JobField> All = new[]
    {
        Text("owner", nameof(Job.Owner), job => job.Owner, (job, value) => job.Owner = value),
        Text("contact", nameof(Job.Contact), job => job.Contact, (job, value) => job.Contact = value),
        Text("machine", nameof(Job.Machine), job => job.Machine, (job, value) => job.Machine = value),
        Text("serial", nameof(Job.Serial), job => job.Serial, (job, value) => job.Serial = value),
        Text("noticed", nameof(Job.Noticed), job => job.Noticed, (job, value) => job.Noticed = value),
        Number("roomC", nameof(Job.RoomC), job => job.RoomC, (job, value) => job.RoomC = value),
        Number("temperatureLimitC", nameof(Job.TemperatureLimitC), job => job.TemperatureLimitC, (job, value) => job.TemperatureLimitC = value),
        Number("ratedPowerW", nameof(Job.RatedPowerW), job => job.RatedPowerW, (job, value) => job.RatedPowerW = value),
        Text("coolerKind", nameof(Job.CoolerKind), job => job.CoolerKind, (job, value) => job.CoolerKind = value),
        Text("origin", nameof(Job.Origin), job => job.Origin, (job, value) => job.Origin = value),
        Text("setting", nameof(Job.Setting), job => job.Setting, (job, value) => job.Setting = value),
        Date("builtOn", nameof(Job.BuiltOn), job => job.BuiltOn, (job, value) => job.BuiltOn = value),
        Text("processor", "Parts.Processor", job => job.Parts.Processor, (job, value) => job.Parts.Processor = value),
        Text("board", "Parts.Board", job => job.Parts.Board, (job, value) => job.Parts.Board = value),
        Text("memory", "Parts.Memory", job => job.Parts.Memory, (job, value) => job.Parts.Memory = value),
        Number("memoryHeightMm", "Parts.MemoryHeightMm", job => job.Parts.MemoryHeightMm, (job, value) => job.Parts.MemoryHeightMm = value),
        Text("graphics", "Parts.Graphics", job => job.Parts.Graphics, (job, value) => job.Parts.Graphics = value),
        Text("case", "Parts.Case", job => job.Parts.Case, (job, value) => job.Parts.Case = value),
        Text("cooler", "Parts.Cooler", job => job.Parts.Cooler, (job, value) => job.Parts.Cooler = value),
        Text("fans", "Parts.Fans", job => job.Parts.Fans, (job, value) => job.Parts.Fans = value),
        Text("fansSteeredBy", "Parts.FansSteeredBy", job => job.Parts.FansSteeredBy, (job, value) => job.Parts.FansSteeredBy = value),
        Date("purchasedOn", "Warranty.PurchasedOn", job => job.Warranty.PurchasedOn, (job, value) => job.Warranty.PurchasedOn = value),
        Number("warrantyMonths", "Warranty.Months", job => job.Warranty.Months, (job, value) => job.Warranty.Months = value is { } months ? (int)Math.Round(months) : null),
        Text("warrantyEndedBy", "Warranty.EndedBy", job => job.Warranty.EndedBy, (job, value) => job.Warranty.EndedBy = value),
        Text("warrantyRoute", "Warranty.Route", job => job.Warranty.Route, (job, value) => job.Warranty.Route = value),
        Text("doneBefore", nameof(Job.DoneBefore), job => job.DoneBefore, (job, value) => job.DoneBefore = value),
        Text("lastDone", nameof(Job.LastDone), job => job.LastDone, (job, value) => job.LastDone = value),
        Number("tubeOneC", nameof(Job.TubeOneC), job => job.TubeOneC, (job, value) => job.TubeOneC = value),
        Number("tubeOtherC", nameof(Job.TubeOtherC), job => job.TubeOtherC, (job, value) => job.TubeOtherC = value),
        new JobField("airPlan", nameof(Job.AirPlan), job => job.AirPlan, SetAirPlan),
        Text("decisionRoute", nameof(Job.DecisionRoute), job => job.DecisionRoute, (job, value) => job.DecisionRoute = value),
        Text("repairCooler", "Repair.Cooler", job => job.Repair.Cooler, (job, value) => job.Repair.Cooler = value),
        new JobField("repairCauses", "Repair.Causes", job => job.Repair.Causes, SetCauses),
        Text("waitingFor", nameof(Job.WaitingFor), job => job.WaitingFor, (job, value) => job.WaitingFor = value),
        Text("repairFound", "Repair.Found", job => job.Repair.Found, (job, value) => job.Repair.Found = value),
        Text("repairDone", "Repair.Done", job => job.Repair.Done, (job, value) => job.Repair.Done = value),
        Text("repairParts", "Repair.Parts", job => job.Repair.Parts, (job, value) => job.Repair.Parts = value),
        Number("repairMinutes", "Repair.Minutes", job => job.Repair.Minutes, (job, value) => job.Repair.Minutes = value is { } minutes ? (int)Math.Round(minutes) : null),
        Text("repairPaste", "Repair.Paste", job => job.Repair.Paste, (job, value) => job.Repair.Paste = value),
        Text("repairPasteMethod", "Repair.PasteMethod", job => job.Repair.PasteMethod, (job, value) => job.Repair.PasteMethod = value),
        Text("repairCoolerKind", "Repair.CoolerKind", job => job.Repair.CoolerKind, (job, value) => job.Repair.CoolerKind = value),
        Instant("mountedAt", "Repair.MountedAt", job => job.Repair.MountedAt, (job, value) => job.Repair.MountedAt = value),
        Instant("handedOverAt", nameof(Job.HandedOverAt), job => job.HandedOverAt, (job, value) => job.HandedOverAt = value),
        Date("recheckOn", nameof(Job.RecheckOn), job => job.RecheckOn, (job, value) => job.RecheckOn = value),
    }.ToDictionary(field => field.Name, StringComparer.Ordinal);

    /// <summary>A field by its name; “evidence.” before an observation's id is one as well.</summary>
    public static JobField? Find(string name) => All.GetValueOrDefault(name)
        ?? (name.StartsWith(EvidencePrefix, StringComparison.Ordinal) && DiagnosisTables.EvidenceOf(name[EvidencePrefix.Length..]) is { } row ? Observation(name, row) : null);

    private const string EvidencePrefix = "evidence.", DoubtMark = "?";

    /// <summary>An observation's state, with a question mark behind it when it is doubtful.</summary>
    private static JobField Observation(string name, EvidenceRow row) => new(
        name, nameof(Job.Observations),
        job => job.Observations.FirstOrDefault(item => item.Id == row.Id) is { } item ? item.State + (item.Doubtful ? DoubtMark : "") : null,
        (job, json) =>
        {
            if (json.ValueKind is not (JsonValueKind.String or JsonValueKind.Null))
            {
                return "Expected text.";
            }

            string? text = json.GetString();
            string? state = text?.TrimEnd(DoubtMark[0]);
            if (state is not null && !row.States.Contains(state))
            {
                return $"“{row.Title}” is one of {string.Join(", ", row.States)}, not “{state}”.";
            }

            EvidenceItem[] others = [.. job.Observations.Where(item => item.Id != row.Id)];
            job.Observations = state is null ? others : [.. others, new EvidenceItem(row.Id, state, text!.EndsWith(DoubtMark, StringComparison.Ordinal))];
            return null;
        });

    /// <summary>The causes that were found, as a list of ids; sorted, so that the same ones are the same value.</summary>
    private static string? SetCauses(Job job, JsonElement json)
    {
        if (json.ValueKind == JsonValueKind.Null)
        {
            job.Repair.Causes = [];
            return null;
        }

        if (json.ValueKind != JsonValueKind.Array || json.EnumerateArray().Any(one => one.ValueKind != JsonValueKind.String))
        {
            return "Expected a list of causes.";
        }

        string[] ids = [.. json.EnumerateArray().Select(one => one.GetString()!).Distinct().Order(StringComparer.Ordinal)];
        if (ids.FirstOrDefault(id => DiagnosisTables.Causes.All(cause => cause.Id != id)) is { } unknown)
        {
            return $"There is no cause “{unknown}”.";
        }

        job.Repair.Causes = ids;
        return null;
    }

    private static string? SetAirPlan(Job job, JsonElement json)
    {
        if (json.ValueKind == JsonValueKind.Null)
        {
            job.AirPlan = null;
            return null;
        }

        AirPlan? plan = null;
        try
        {
            plan = json.Deserialize<AirPlan>(RemedosContext.Json);
        }
        catch (JsonException)
        {
            // Told below like any other that cannot be.
        }

        job.AirPlan = plan;
        return plan is null ? "Expected a plan of fans and headers." : plan.Problem();
    }

    private static JobField Date(string name, string property, Func<Job, DateOnly?> get, Action<Job, DateOnly?> set) => new(name, property, job => get(job), (job, json) =>
    {
        if (json.ValueKind == JsonValueKind.Null)
        {
            set(job, null);
            return null;
        }

        if (json.ValueKind != JsonValueKind.String || !DateOnly.TryParseExact(json.GetString(), "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out DateOnly date))
        {
            return "Expected a date.";
        }

        set(job, date);
        return null;
    });

    private static JobField Text(string name, string property, Func<Job, string?> get, Action<Job, string?> set) => new(name, property, get, (job, json) =>
    {
        if (json.ValueKind is not (JsonValueKind.String or JsonValueKind.Null))
        {
            return "Expected text.";
        }

        // PostgreSQL keeps no NUL in text, and no technician types one.
        string? text = json.GetString()?.Replace("\0", "", StringComparison.Ordinal);
        set(job, string.IsNullOrWhiteSpace(text) ? null : text);
        return null;
    });

    private static JobField Number(string name, string property, Func<Job, double?> get, Action<Job, double?> set) => new(name, property, job => get(job), (job, json) =>
    {
        if (json.ValueKind is not (JsonValueKind.Number or JsonValueKind.Null))
        {
            return "Expected a number.";
        }

        set(job, json.ValueKind == JsonValueKind.Null ? null : json.GetDouble());
        return null;
    });

    private static JobField Instant(string name, string property, Func<Job, DateTimeOffset?> get, Action<Job, DateTimeOffset?> set) => new(name, property, job => get(job), (job, json) =>
    {
        if (json.ValueKind == JsonValueKind.Null)
        {
            set(job, null);
            return null;
        }

        if (json.ValueKind != JsonValueKind.String || !json.TryGetDateTimeOffset(out DateTimeOffset at))
        {
            return "Expected a date and time.";
        }

        set(job, at.ToUniversalTime());
        return null;
    });
}

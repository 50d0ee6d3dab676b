using System.Text.Json;
using Remedos.Core.Matching;
using Remedos.Core.Money;
using Remedos.Data;
using Remedos.Server.Coolers;
using Remedos.Server.Hosting;
using Remedos.Server.Reports;
using Remedos.Server.Session;

namespace Remedos.Server.Settings;

/// <summary>A setting that saves by itself.</summary>
/// <param name="Get">Its value.</param>
/// <param name="Set">Sets it from JSON; a sentence when it cannot stand.</param>
internal sealed record SettingsField(string Name, Func<Workshop, Person, object?> Get, Func<Workshop, Person, JsonElement, string?> Set)
{
    public string Json(Workshop workshop, Person person) => JsonSerializer.Serialize(Get(workshop, person), RemedosContext.Json);

    /// <summary>JSON as it would be stored.</summary>
    public string Canonical(JsonElement json)
    {
        Workshop scratch = new()
        {
            Name = "",
            TagPrefix = "",
            Currency = "",
            TimeZone = "",
        };
        Person person = new() { Name = "" };
        return json.ValueKind == JsonValueKind.Undefined || Set(scratch, person, json) is not null ? "null" : Json(scratch, person);
    }
}

internal static class SettingsFields
{
    private const int LongestName = 200,
        LongestPrefix = 8;

    /// <summary>The zones that this machine knows.</summary>
    public static IReadOnlyList<string> TimeZones { get; } =
    [
        .. TimeZoneInfo
            .GetSystemTimeZones()
            .Select(zone => zone.Id)
            .Where(id => id.Contains('/') || id == "UTC")
            .Order(StringComparer.Ordinal),
    ];

    private static readonly SettingsField[] All =
    [
        new("name", (w, _) => w.Name, (w, _, json) => Text(json, LongestName, "A workshop’s name", text => w.Name = text)),
        new(
            "tagPrefix",
            (w, _) => w.TagPrefix,
            (w, _, json) => Text(json, LongestPrefix, "What stands before a tag’s number", text => w.TagPrefix = text)
        ),
        new(
            "currency",
            (w, _) => w.Currency,
            (w, _, json) =>
                json.ValueKind == JsonValueKind.String && json.GetString() is { Length: 3 } code && code.All(char.IsAsciiLetterUpper)
                    ? Done(() => w.Currency = code)
                    : "A currency is told by three capital letters, such as EUR."
        ),
        new(
            "timeZone",
            (w, _) => w.TimeZone,
            (w, _, json) =>
                json.ValueKind == JsonValueKind.String && json.GetString() is { Length: > 0 and <= 60 } zone && WorkshopClock.Knows(zone)
                    ? Done(() => w.TimeZone = zone)
                    : "A time zone is told as this machine knows it, such as Atlantic/Azores."
        ),
        new("person", (_, p) => p.Name, (_, p, json) => Text(json, LongestName, "A person’s name", text => p.Name = text)),
        new(
            "labourMinorPerHour",
            (w, _) => w.LabourMinorPerHour,
            (w, _, json) =>
                json.ValueKind == JsonValueKind.Number && json.TryGetInt64(out long rate)
                    ? new Rates(rate, 0).Problem() ?? Done(() => w.LabourMinorPerHour = rate)
                    : "An hour’s work is told in the currency’s smallest unit."
        ),
        new(
            "taxPercent",
            (w, _) => w.TaxPercent,
            (w, _, json) =>
                json.ValueKind == JsonValueKind.Number && json.TryGetDouble(out double percent)
                    ? new Rates(0, percent).Problem() ?? Done(() => w.TaxPercent = percent)
                    : "Tax is told in per cent."
        ),
        new(
            "mostPriceSharePercent",
            (w, _) => w.MostPriceSharePercent,
            (w, _, json) =>
                json.ValueKind == JsonValueKind.Null ? Done(() => w.MostPriceSharePercent = null)
                : json.ValueKind == JsonValueKind.Number && json.TryGetDouble(out double share) && share is >= 1 and <= 500
                    ? Done(() => w.MostPriceSharePercent = share)
                : "Parts may cost 1 to 500 % of the chip’s price; empty for no limit."
        ),
        new("address", (w, _) => w.Address, (w, _, json) => Address(json, w)),
        new(
            "paperSize",
            (w, _) => w.PaperSize,
            (w, _, json) =>
                json.ValueKind == JsonValueKind.String && PdfSheet.Papers.Contains(json.GetString())
                    ? Done(() => w.PaperSize = json.GetString()!)
                    : $"Paper is one of {string.Join(", ", PdfSheet.Papers)}."
        ),
        new("weights", (w, _) => w.Weights, (w, _, json) => Weights(json, weights => w.Weights = weights)),
    ];

    /// <summary>Those that are the workshop's, whoever works in it.</summary>
    public static IEnumerable<SettingsField> OfWorkshop => All.Where(one => one.Name != "person");

    public static SettingsField? Find(string name) => Array.Find(All, field => field.Name == name);

    public static WorkshopSettings Of(Workshop workshop, Person person) =>
        new(
            workshop.Name,
            workshop.TagPrefix,
            workshop.Currency,
            workshop.TimeZone,
            person.Name,
            workshop.LabourMinorPerHour,
            workshop.TaxPercent,
            workshop.MostPriceSharePercent,
            workshop.Address,
            workshop.PaperSize,
            workshop.Weights
        );

    private static string? Text(JsonElement json, int longest, string what, Action<string> set)
    {
        string text = json.ValueKind == JsonValueKind.String ? Core.Bays.BayLine.Clean(json.GetString()!).Trim() : "";
        return text.Length == 0 || text.Length > longest ? $"{what} has 1 to {longest} letters." : Done(() => set(text));
    }

    private const int LongestAddress = 500;

    private static string? Address(JsonElement json, Workshop workshop)
    {
        string text = json.ValueKind == JsonValueKind.String ? json.GetString()!.Replace("\0", "", StringComparison.Ordinal).Trim() : "";
        return text.Length > LongestAddress
            ? $"An address has up to {LongestAddress} letters."
            : Done(() => workshop.Address = text.Length == 0 ? null : text);
    }

    private static string? Weights(JsonElement json, Action<School?> set)
    {
        if (json.ValueKind == JsonValueKind.Null)
        {
            set(null);
            return null;
        }

        School? weights;
        try
        {
            weights = json.Deserialize<School>(WireJson.Strict);
        }
        catch (JsonException)
        {
            weights = null;
        }

        weights = weights is null
            ? null
            : weights with
            {
                Id = Machine.OwnSchool,
                Title = "Our own",
                Reason = "As this workshop weighs it.",
            };
        return weights is null
            ? "Expected a weight for heat, noise, price, failures and liquid."
            : weights.Problem() ?? Done(() => set(weights));
    }

    private static string? Done(Action set)
    {
        set();
        return null;
    }
}

using System.Globalization;
using System.Text.Json;
using Remedos.Core;
using Remedos.Core.Matching;
using Remedos.Core.Money;
using Remedos.Core.Planning;
using Remedos.Data;
using Remedos.Server.Coolers;
using Remedos.Server.Hosting;
using Remedos.Server.Reports;
using Remedos.Server.Session;

namespace Remedos.Server.Settings;

/// <summary>A setting that saves by itself.</summary>
/// <param name="Get">Its value.</param>
/// <param name="Set">Sets it from JSON; a sentence when it cannot stand.</param>
internal sealed record SettingsField(string Name, Func<Workshop, object?> Get, Func<Workshop, JsonElement, string?> Set)
{
    public string Json(Workshop workshop) => JsonSerializer.Serialize(Get(workshop), RemedosContext.Json);

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
        return json.ValueKind == JsonValueKind.Undefined || Set(scratch, json) is not null ? "null" : Json(scratch);
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

    public static readonly IReadOnlyList<SettingsField> All =
    [
        new("name", w => w.Name, (w, json) => Text(json, LongestName, "A workshop’s name", text => w.Name = text)),
        new(
            "tagPrefix",
            w => w.TagPrefix,
            (w, json) => Text(json, LongestPrefix, "What stands before a tag’s number", text => w.TagPrefix = text)
        ),
        new(
            "currency",
            w => w.Currency,
            (w, json) =>
                json.ValueKind == JsonValueKind.String && json.GetString() is { Length: 3 } code && code.All(char.IsAsciiLetterUpper)
                    ? Done(() => w.Currency = code)
                    : "A currency is told by three capital letters, such as EUR."
        ),
        new(
            "timeZone",
            w => w.TimeZone,
            (w, json) =>
                json.ValueKind == JsonValueKind.String && json.GetString() is { Length: > 0 and <= 60 } zone && WorkshopClock.Knows(zone)
                    ? Done(() => w.TimeZone = zone)
                    : "A time zone is told as this machine knows it, such as Atlantic/Azores."
        ),
        new(
            "labourMinorPerHour",
            w => w.LabourMinorPerHour,
            (w, json) =>
                json.ValueKind == JsonValueKind.Number && json.TryGetInt64(out long rate)
                    ? new Rates(rate, 0).Problem() ?? Done(() => w.LabourMinorPerHour = rate)
                    : "An hour’s work is told in the currency’s smallest unit."
        ),
        new(
            "taxPercent",
            w => w.TaxPercent,
            (w, json) =>
                json.ValueKind == JsonValueKind.Number && json.TryGetDouble(out double percent)
                    ? new Rates(0, percent).Problem() ?? Done(() => w.TaxPercent = percent)
                    : "Tax is told in per cent."
        ),
        new(
            "mostPriceSharePercent",
            w => w.MostPriceSharePercent,
            (w, json) =>
                json.ValueKind == JsonValueKind.Null ? Done(() => w.MostPriceSharePercent = null)
                : json.ValueKind == JsonValueKind.Number && json.TryGetDouble(out double share) && share is >= 1 and <= 500
                    ? Done(() => w.MostPriceSharePercent = share)
                : "Parts may cost 1 to 500 % of the chip’s price; empty for no limit."
        ),
        new("address", w => w.Address, (w, json) => Address(json, w)),
        new(
            "paperSize",
            w => w.PaperSize,
            (w, json) =>
                json.ValueKind == JsonValueKind.String && PdfSheet.Papers.Contains(json.GetString())
                    ? Done(() => w.PaperSize = json.GetString()!)
                    : $"Paper is one of {string.Join(", ", PdfSheet.Papers)}."
        ),
        new(
            "temperatureUnit",
            w => w.TemperatureUnit,
            (w, json) =>
                json.ValueKind == JsonValueKind.String && Kebab.Parse<TemperatureUnit>(json.GetString()!) is { } unit
                    ? Done(() => w.TemperatureUnit = unit)
                    : $"Temperatures are read in one of {Kebab.Words<TemperatureUnit>()}."
        ),
        new(
            "forgetOwnersAfterMonths",
            w => w.ForgetOwnersAfterMonths,
            (w, json) =>
                json.ValueKind == JsonValueKind.Null ? Done(() => w.ForgetOwnersAfterMonths = null)
                : Whole(json, 1, 240) is { } months ? Done(() => w.ForgetOwnersAfterMonths = months)
                : "Owners are forgotten after 1 to 240 months; empty for never by itself."
        ),
        new(
            "keepBillsYears",
            w => w.KeepBillsYears,
            (w, json) =>
                Whole(json, 0, 50) is { } years ? Done(() => w.KeepBillsYears = years) : "Bills name who paid them for 0 to 50 years."
        ),
        new(
            "keepAccessMonths",
            w => w.KeepAccessMonths,
            (w, json) =>
                Whole(json, 1, 120) is { } months
                    ? Done(() => w.KeepAccessMonths = months)
                    : "Who came and went is kept for 1 to 120 months."
        ),
        new(
            "backupAt",
            w => Clock(w.BackupAt),
            (w, json) =>
                json.ValueKind == JsonValueKind.Null ? Done(() => w.BackupAt = null)
                : json.ValueKind == JsonValueKind.String
                && TimeOnly.TryParseExact(json.GetString(), "HH:mm", CultureInfo.InvariantCulture, DateTimeStyles.None, out TimeOnly time)
                    ? Done(() => w.BackupAt = time)
                : "A backup is made at a time such as 12:30; empty for none by itself."
        ),
        new(
            "backupsKept",
            w => w.BackupsKept,
            (w, json) => Whole(json, 1, 1000) is { } kept ? Done(() => w.BackupsKept = kept) : "1 to 1000 backups are kept."
        ),
        new("open", w => w.Open, Open),
        new("weights", w => w.Weights, (w, json) => Weights(json, weights => w.Weights = weights)),
    ];

    public static SettingsField? Find(string name) => All.FirstOrDefault(field => field.Name == name);

    public static WorkshopSettings Of(Workshop workshop) =>
        new(
            workshop.Name,
            workshop.TagPrefix,
            workshop.Currency,
            workshop.TimeZone,
            workshop.LabourMinorPerHour,
            workshop.TaxPercent,
            workshop.MostPriceSharePercent,
            workshop.Address,
            workshop.PaperSize,
            workshop.TemperatureUnit,
            workshop.ForgetOwnersAfterMonths,
            workshop.KeepBillsYears,
            workshop.KeepAccessMonths,
            Clock(workshop.BackupAt),
            workshop.BackupsKept,
            workshop.Open,
            workshop.LogoSha256?[..12],
            workshop.Weights
        );

    private static string? Clock(TimeOnly? time) => time?.ToString("HH:mm", CultureInfo.InvariantCulture);

    private static string? Open(Workshop workshop, JsonElement json)
    {
        OpeningHours? open;
        try
        {
            open = json.Deserialize<OpeningHours>(WireJson.Strict);
        }
        catch (JsonException)
        {
            return "Opening hours are days, 1 for Monday to 7 for Sunday, with “from” and “to” such as 09:00:00.";
        }

        return open?.Problem() ?? Done(() => workshop.Open = open);
    }

    private static int? Whole(JsonElement json, int least, int most) =>
        json.ValueKind == JsonValueKind.Number && json.TryGetInt32(out int number) && number >= least && number <= most ? number : null;

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

using System.Globalization;
using Remedos.Data;
using Remedos.Data.Backups;
using Remedos.Server.Files;
using Remedos.Server.Session;

namespace Remedos.Server.Backups;

/// <summary>When a workshop's backup is due, what it is called, and which have had their time.</summary>
internal static class BackupPlan
{
    private const string Moment = "yyyy-MM-dd HHmm",
        Ending = ".zip";

    /// <summary>After a try that failed.</summary>
    public static readonly TimeSpan AgainAfter = TimeSpan.FromHours(1);

    /// <summary>When the next is due, which a server that was off at the time makes up for; null where none is wanted.</summary>
    /// <param name="workshop">Whose.</param>
    /// <param name="stand">Since when it is wanted, or when the last was made.</param>
    public static DateTimeOffset? Next(Workshop workshop, BackupStand stand)
    {
        if (workshop.BackupAt is not { } time)
        {
            return null;
        }

        if (stand.Problem is not null)
        {
            return stand.TriedAt + AgainAfter;
        }

        DateTime since = WorkshopClock.At(workshop, stand.MadeAt ?? stand.TriedAt).DateTime,
            next = since.Date + time.ToTimeSpan();
        return OnClock(workshop, next > since ? next : next.AddDays(1));
    }

    /// <summary>What a backup is called.</summary>
    public static string NameOf(Workshop workshop, DateTimeOffset at) =>
        $"{IdOf(workshop)} {GivenName.Of(workshop.TagPrefix, "WS")} "
        + $"{WorkshopClock.At(workshop, at).ToString(Moment, CultureInfo.InvariantCulture)}{Ending}";

    /// <summary>Of the files of a folder those of this workshop that are older than the newest so many.</summary>
    public static IReadOnlyList<string> Over(Workshop workshop, IEnumerable<string> names, int kept) =>
        [
            .. names
                .Where(name => name.StartsWith(IdOf(workshop) + " ", StringComparison.Ordinal))
                .Select(name => (name, at: MomentOf(name)))
                .Where(one => one.at is not null)
                .OrderByDescending(one => one.at)
                .Skip(kept)
                .Select(one => one.name),
        ];

    /// <summary>When a backup was made, by its name; null for another file.</summary>
    private static DateTime? MomentOf(string name) =>
        name.Length > Moment.Length + Ending.Length
        && name.EndsWith(Ending, StringComparison.Ordinal)
        && DateTime.TryParseExact(
            name[^(Moment.Length + Ending.Length)..^Ending.Length],
            Moment,
            CultureInfo.InvariantCulture,
            DateTimeStyles.None,
            out DateTime at
        )
            ? at
            : null;

    /// <summary>Two workshops may have the same letters, and one may change its own.</summary>
    private static string IdOf(Workshop workshop) => workshop.Id.ToString("N")[^12..];

    private static DateTimeOffset OnClock(Workshop workshop, DateTime here)
    {
        TimeZoneInfo zone = TimeZoneInfo.TryFindSystemTimeZoneById(workshop.TimeZone, out TimeZoneInfo? known) ? known : TimeZoneInfo.Utc;
        DateTime plain = DateTime.SpecifyKind(here, DateTimeKind.Unspecified);
        if (zone.IsInvalidTime(plain))
        {
            // The hour that spring leaves out.
            plain = plain.AddHours(1);
        }

        return new DateTimeOffset(plain, zone.GetUtcOffset(plain)).ToUniversalTime();
    }
}

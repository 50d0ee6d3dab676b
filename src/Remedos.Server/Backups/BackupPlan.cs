using System.Globalization;
using Remedos.Data;
using Remedos.Data.Backups;
using Remedos.Server.Files;
using Remedos.Server.Session;

namespace Remedos.Server.Backups;

/// <summary>When a workshop's backup is due, what it is called, and which have had their time.</summary>
internal static class BackupPlan
{
    private const string Moment = "yyyy-MM-dd HHmm";

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
        $"{Stem(workshop)}{WorkshopClock.At(workshop, at).ToString(Moment, CultureInfo.InvariantCulture)}.zip";

    /// <summary>Of the files of a folder those of this workshop that are older than the newest so many.</summary>
    public static IReadOnlyList<string> Over(Workshop workshop, IEnumerable<string> names, int kept) =>
        [.. names.Where(name => IsOf(workshop, name)).OrderDescending(StringComparer.Ordinal).Skip(kept)];

    private static bool IsOf(Workshop workshop, string name) =>
        name.StartsWith(Stem(workshop), StringComparison.Ordinal)
        && name.EndsWith(".zip", StringComparison.Ordinal)
        && DateTime.TryParseExact(
            name[Stem(workshop).Length..^4],
            Moment,
            CultureInfo.InvariantCulture,
            DateTimeStyles.None,
            out DateTime _
        );

    /// <summary>The id as well: a workshop may change its name, and two may have the same.</summary>
    private static string Stem(Workshop workshop) => $"{workshop.Id.ToString("N")[^12..]} {GivenName.Of(workshop.TagPrefix, "WS")} ";

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

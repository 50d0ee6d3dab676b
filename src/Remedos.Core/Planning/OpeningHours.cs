using System.Globalization;

namespace Remedos.Core.Planning;

/// <summary>The hours of a day on which there is work, on the workshop's clock.</summary>
/// <param name="Day">1 is Monday, 7 Sunday.</param>
public sealed record OpenDay(int Day, TimeOnly From, TimeOnly To);

/// <summary>When a workshop is open.</summary>
/// <param name="Days">The days on which it is; it is closed on the others.</param>
public sealed record OpeningHours(IReadOnlyList<OpenDay> Days)
{
    private static readonly string[] Names = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

    /// <summary>Why these are no hours, as a sentence; null when they can stand.</summary>
    public string? Problem() =>
        Days is not { Count: > 0 } ? "It is open on one day at least; leave all of it empty where nobody has said."
        : Days.Any(day => day.Day is < 1 or > 7) ? "Days are told as 1 for Monday to 7 for Sunday."
        : Days.DistinctBy(day => day.Day).Count() < Days.Count ? "Each day is told once."
        : Days.FirstOrDefault(day => day.From >= day.To) is { } wrong
            ? $"{Names[wrong.Day - 1]} closes at {Clock(wrong.To)}, which is not after {Clock(wrong.From)}."
        : null;

    /// <summary>In words, days of the same hours together: “Mon–Fri 09:00–17:30, Sat 10:00–14:00”.</summary>
    public string Words()
    {
        OpenDay[] days = [.. Days.OrderBy(day => day.Day)];
        List<string> words = [];
        for (int from = 0, to; from < days.Length; from = to)
        {
            for (to = from + 1; to < days.Length && days[to] == days[from] with { Day = days[to - 1].Day + 1 }; )
            {
                to++;
            }

            string first = Names[days[from].Day - 1],
                last = Names[days[to - 1].Day - 1];
            string names = (to - from) switch
            {
                1 => first,
                2 => $"{first}, {last}",
                _ => $"{first}–{last}",
            };
            words.Add($"{names} {Clock(days[from].From)}–{Clock(days[from].To)}");
        }

        return string.Join(", ", words);
    }

    /// <summary>Whether these are the same hours.</summary>
    public bool Equals(OpeningHours? other) => other is not null && Days.SequenceEqual(other.Days);

    /// <inheritdoc/>
    public override int GetHashCode() => Days.Aggregate(0, (sum, day) => HashCode.Combine(sum, day));

    private static string Clock(TimeOnly time) => time.ToString("HH:mm", CultureInfo.InvariantCulture);
}

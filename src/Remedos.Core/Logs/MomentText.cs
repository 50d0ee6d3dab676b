using System.Globalization;

namespace Remedos.Core.Logs;

/// <summary>A point in time as a log writes it.</summary>
/// <param name="Seconds">Since 1970 when there is a date, else since midnight (or since the start, for elapsed times).</param>
/// <param name="HasDate">Whether a date was read.</param>
/// <param name="HasTime">Whether a time of day was read.</param>
internal readonly record struct Moment(double Seconds, bool HasDate, bool HasTime);

/// <summary>
/// Reads dates and times: ISO 8601 with or without offset or separators, day or month first, months by name, 24 and 12 hours, comma or
/// point
/// before the fraction, elapsed hours beyond 24. By hand and not by the framework's parser, because one log mixes none of these and a
/// hundred thousand rows want a short way.
/// </summary>
internal static class MomentText
{
    /// <summary>Months by their first three letters, English and then German.</summary>
    private static readonly string[] Months =
    [
        "jan",
        "feb",
        "mar",
        "apr",
        "may",
        "jun",
        "jul",
        "aug",
        "sep",
        "oct",
        "nov",
        "dec",
        "jän",
        "feb",
        "mär",
        "apr",
        "mai",
        "jun",
        "jul",
        "aug",
        "sep",
        "okt",
        "nov",
        "dez",
    ];

    public static bool TryRead(ReadOnlySpan<char> text, bool dayFirst, out Moment moment)
    {
        moment = default;
        text = text.Trim();
        int i = 0;
        bool hasDate = false,
            hasTime = false;
        double seconds = 0;
        bool packed = false;
        if (
            TryDate(text, dayFirst, out int used, out double days)
            || TryNamedMonth(text, out used, out days)
            || (packed = TryPackedDate(text, out used, out days))
        )
        {
            hasDate = true;
            seconds = days * 86400;
            i = used;
            while (i < text.Length && text[i] is 'T' or 't' or ' ' or ',')
            {
                i++;
            }
        }

        if (i < text.Length)
        {
            if (!TryTime(text[i..], out double timeOfDay) && !(packed && TryPackedTime(text[i..], out timeOfDay)))
            {
                return false;
            }

            hasTime = true;
            seconds += timeOfDay;
        }

        moment = new Moment(seconds, hasDate, hasTime);
        return hasDate || hasTime;
    }

    /// <summary>Whether the first two parts of a date prove that the month, or the day, comes first; null when neither does.</summary>
    public static bool? DayFirst(ReadOnlySpan<char> text)
    {
        text = text.Trim();
        int i = 0;
        return
            TryDigits(text, ref i, out long first, out int width)
            && width <= 2
            && i < text.Length
            && text[i] is '/' or '.' or '-'
            && Next(text, i + 1) is { } second
            ? first > 12
                ? true
                : second > 12
                    ? false
                    : text[i] == '.'
                        ? true
                        : null
            : null;
    }

    private static long? Next(ReadOnlySpan<char> text, int i) => TryDigits(text, ref i, out long value, out _) ? value : null;

    private static bool TryDate(ReadOnlySpan<char> text, bool dayFirst, out int used, out double days)
    {
        used = 0;
        days = 0;
        int i = 0;
        if (!TryDigits(text, ref i, out long first, out int width) || i >= text.Length || text[i] is not ('-' or '/' or '.'))
        {
            return false;
        }

        char separator = text[i++];
        if (
            !TryDigits(text, ref i, out long second, out _)
            || i >= text.Length
            || text[i++] != separator
            || !TryDigits(text, ref i, out long third, out int lastWidth)
        )
        {
            return false;
        }

        (long year, long month, long day) =
            width == 4 ? (first, second, third)
            : dayFirst ? (third, second, first)
            : (third, first, second);
        year += lastWidth == 2 && width != 4 ? 2000 : 0;
        used = i;
        return TryDays(year, month, day, out days);
    }

    /// <summary>“9 Mar 2031”, “09-Mar-31”, “Mar 9, 2031”, with or without a day of the week before it.</summary>
    private static bool TryNamedMonth(ReadOnlySpan<char> text, out int used, out double days)
    {
        (used, days) = (0, 0);
        int i = 0;
        long month = 0,
            day = 0,
            year = 0;
        while (i < text.Length && (day == 0 || month == 0 || year == 0))
        {
            if (text[i] is ' ' or '-' or ',' or '.' or '/')
            {
                i++;
            }
            else if (char.IsLetter(text[i]))
            {
                int start = i;
                while (i < text.Length && char.IsLetter(text[i]))
                {
                    i++;
                }

                ReadOnlySpan<char> word = text[start..i];
                int found = MonthOf(word);
                if (found < 0 && (start > 0 || word.Length < 2))
                {
                    return false;
                }

                month = found < 0 ? month : (found % 12) + 1;
            }
            else if (TryDigits(text, ref i, out long number, out int width) && width is 1 or 2 or 4)
            {
                (day, year) = width < 4 && day == 0 ? (number, year) : (day, width == 4 ? number : number + 2000);
            }
            else
            {
                return false;
            }
        }

        used = i;
        return month > 0 && year > 0 && TryDays(year, month, day, out days);
    }

    private static int MonthOf(ReadOnlySpan<char> word)
    {
        for (int month = 0; word.Length >= 3 && month < Months.Length; month++)
        {
            if (word[..3].Equals(Months[month], StringComparison.OrdinalIgnoreCase))
            {
                return month;
            }
        }

        return -1;
    }

    /// <summary>“20310309”, before a “T”, a space, six more digits or the end.</summary>
    private static bool TryPackedDate(ReadOnlySpan<char> text, out int used, out double days)
    {
        (used, days) = (8, 0);
        int i = 0;
        return text.Length >= 8
            && TryDigits(text, ref i, out _, out int width)
            && width is 8 or 14
            && TryDays(
                long.Parse(text[..4], CultureInfo.InvariantCulture),
                long.Parse(text[4..6], CultureInfo.InvariantCulture),
                long.Parse(text[6..8], CultureInfo.InvariantCulture),
                out days
            );
    }

    /// <summary>“235207”, with or without a fraction.</summary>
    private static bool TryPackedTime(ReadOnlySpan<char> text, out double seconds)
    {
        seconds = 0;
        int i = 0;
        if (!TryDigits(text, ref i, out long digits, out int width) || width != 6 || digits % 100 > 60 || digits / 100 % 100 > 59)
        {
            return false;
        }

        seconds = (digits / 10000 * 3600) + (digits / 100 % 100 * 60) + (digits % 100);
        if (i < text.Length && text[i] is '.' or ',' && ++i > 0 && TryDigits(text, ref i, out long fraction, out int places))
        {
            seconds += fraction / Math.Pow(10, places);
        }

        return i == text.Length || text[i..] is "Z";
    }

    private static bool TryDays(long year, long month, long day, out double days)
    {
        days = 0;
        if (year is < 1970 or > 2200 || month is < 1 or > 12 || day < 1 || day > DateTime.DaysInMonth((int)year, (int)month))
        {
            return false;
        }

        days = (new DateTime((int)year, (int)month, (int)day, 0, 0, 0, DateTimeKind.Utc) - DateTime.UnixEpoch).TotalDays;
        return true;
    }

    private static bool TryTime(ReadOnlySpan<char> text, out double seconds)
    {
        seconds = 0;
        int i = 0;
        if (
            !TryDigits(text, ref i, out long hours, out int hoursWidth)
            || hoursWidth > 6
            || i >= text.Length
            || text[i++] != ':'
            || !TryDigits(text, ref i, out long minutes, out int minutesWidth)
            || minutes > 59
            || minutesWidth > 2
        )
        {
            return false;
        }

        seconds = (hours * 3600) + (minutes * 60);
        if (i < text.Length && text[i] == ':')
        {
            i++;
            if (!TryDigits(text, ref i, out long whole, out int width) || whole > 60 || width > 2)
            {
                return false;
            }

            seconds += whole;
            if (i < text.Length && text[i] is '.' or ',' or ':')
            {
                i++;
                if (!TryDigits(text, ref i, out long fraction, out int places) || places > 12)
                {
                    return false;
                }

                seconds += fraction / Math.Pow(10, places);
            }
        }

        ReadOnlySpan<char> rest = text[i..].Trim();
        if (rest.IsEmpty || rest is "Z" or "z")
        {
            return true;
        }

        if (rest[0] is 'A' or 'a' or 'P' or 'p')
        {
            bool afternoon = rest[0] is 'P' or 'p';
            if (hours is < 1 or > 12 || rest.TrimEnd('.').Length > 4)
            {
                return false;
            }

            seconds +=
                afternoon && hours < 12 ? 43200
                : !afternoon && hours == 12 ? -43200
                : 0;
            return true;
        }

        return TryOffset(rest, ref seconds);
    }

    /// <summary>+01:00 and the like: taken off, so that a change of summer time inside a log leaves no step.</summary>
    private static bool TryOffset(ReadOnlySpan<char> rest, ref double seconds)
    {
        if (rest[0] is not ('+' or '-') || rest.Length < 3)
        {
            return false;
        }

        int i = 1;
        if (!TryDigits(rest, ref i, out long hours, out int width))
        {
            return false;
        }

        long minutes = 0;
        if (width == 4)
        {
            (hours, minutes) = (hours / 100, hours % 100);
        }
        else if (i < rest.Length && rest[i] == ':')
        {
            i++;
            if (!TryDigits(rest, ref i, out minutes, out _))
            {
                return false;
            }
        }

        seconds -= (rest[0] == '-' ? -1 : 1) * ((hours * 3600) + (minutes * 60));
        return i == rest.Length;
    }

    private static bool TryDigits(ReadOnlySpan<char> text, ref int i, out long value, out int width)
    {
        int start = i;
        value = 0;
        while (i < text.Length && char.IsAsciiDigit(text[i]) && i - start < 18)
        {
            value = (value * 10) + (text[i++] - '0');
        }

        width = i - start;
        return width > 0;
    }
}

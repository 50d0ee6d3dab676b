namespace Remedos.Core.Logs;

/// <summary>A point in time as a log writes it.</summary>
/// <param name="Seconds">Since 1970 when there is a date, else since midnight (or since the start, for elapsed times).</param>
/// <param name="HasDate">Whether a date was read.</param>
/// <param name="HasTime">Whether a time of day was read.</param>
internal readonly record struct Moment(double Seconds, bool HasDate, bool HasTime);

/// <summary>
/// Reads dates and times: ISO 8601 with or without offset, day or month first, 24 and 12 hours, comma or point before the
/// fraction, elapsed hours beyond 24. By hand and not by the framework's parser, because one log mixes none of these and a
/// hundred thousand rows want a short way.
/// </summary>
internal static class MomentText
{
    public static bool TryRead(ReadOnlySpan<char> text, bool dayFirst, out Moment moment)
    {
        moment = default;
        text = text.Trim();
        int i = 0;
        bool hasDate = false, hasTime = false;
        double seconds = 0;
        if (TryDate(text, dayFirst, out int used, out double days))
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
            if (!TryTime(text[i..], out double timeOfDay))
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
        return TryDigits(text, ref i, out long first, out int width) && width <= 2 && i < text.Length && text[i] is '/' or '.' or '-' && Next(text, i + 1) is { } second
            ? first > 12 ? true : second > 12 ? false : text[i] == '.' ? true : null
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
        if (!TryDigits(text, ref i, out long second, out _) || i >= text.Length || text[i++] != separator || !TryDigits(text, ref i, out long third, out int lastWidth))
        {
            return false;
        }

        (long year, long month, long day) = width == 4 ? (first, second, third) : dayFirst ? (third, second, first) : (third, first, second);
        year += lastWidth == 2 && width != 4 ? 2000 : 0;
        if (year is < 1970 or > 2200 || month is < 1 or > 12 || day < 1 || day > DateTime.DaysInMonth((int)year, (int)month))
        {
            return false;
        }

        days = (new DateTime((int)year, (int)month, (int)day, 0, 0, 0, DateTimeKind.Utc) - DateTime.UnixEpoch).TotalDays;
        used = i;
        return true;
    }

    private static bool TryTime(ReadOnlySpan<char> text, out double seconds)
    {
        seconds = 0;
        int i = 0;
        if (!TryDigits(text, ref i, out long hours, out int hoursWidth) || hoursWidth > 6 || i >= text.Length || text[i++] != ':' || !TryDigits(text, ref i, out long minutes, out int minutesWidth) || minutes > 59 || minutesWidth > 2)
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

            seconds += afternoon && hours < 12 ? 43200 : !afternoon && hours == 12 ? -43200 : 0;
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

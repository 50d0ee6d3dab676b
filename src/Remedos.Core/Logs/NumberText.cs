using System.Buffers;
using System.Globalization;

namespace Remedos.Core.Logs;

/// <summary>Numbers as loggers write them.</summary>
internal static class NumberText
{
    // Divided by, not multiplied with: both operands are exact, so the quotient is the nearest double.
    private static readonly double[] PowersOfTen = [1, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9];

    private static readonly SearchValues<char> NumberCharacters = SearchValues.Create("+-0123456789.,eE");

    /// <summary>What a number without exponent is made of.</summary>
    public static readonly SearchValues<char> PlainCharacters = SearchValues.Create("+-0123456789.,");

    /// <summary>Reads a number with the table's decimal sign. Plain decimals, which are nearly all, take a short way.</summary>
    public static bool TryRead(ReadOnlySpan<char> text, char decimalSign, out double value)
    {
        int start = text.Length > 0 && text[0] == '-' ? 1 : 0,
            sign = -1;
        long whole = 0;
        for (int i = start; i < text.Length; i++)
        {
            int digit = text[i] - '0';
            if ((uint)digit <= 9)
            {
                whole = (whole * 10) + digit;
            }
            else if (text[i] == decimalSign && sign < 0)
            {
                sign = i;
            }
            else
            {
                return TrySlow(text.Trim(), decimalSign, out value);
            }
        }

        int digits = text.Length - start - (sign < 0 ? 0 : 1),
            decimals = sign < 0 ? 0 : text.Length - sign - 1;
        if (digits is 0 or > 15 || decimals > 9)
        {
            return TrySlow(text.Trim(), decimalSign, out value);
        }

        value = (start > 0 ? -whole : whole) / PowersOfTen[decimals];
        return true;
    }

    /// <summary>True for what loggers write when a reading is missing.</summary>
    public static bool IsMissing(ReadOnlySpan<char> text)
    {
        text = text.Trim();
        return text.Length switch
        {
            0 => true,
            1 => text[0] is '-' or '–' or '?',
            2 => text is "--" or "NA" or "na",
            3 => text.Equals("N/A", StringComparison.OrdinalIgnoreCase)
                || text.Equals("NaN", StringComparison.OrdinalIgnoreCase)
                || text is "---",
            4 => text.Equals("null", StringComparison.OrdinalIgnoreCase) || text.Equals("none", StringComparison.OrdinalIgnoreCase),
            _ => false,
        };
    }

    /// <summary>Reads yes/no, true/false, on/off and 1/0.</summary>
    public static bool TryFlag(ReadOnlySpan<char> text, out double value)
    {
        text = text.Trim();
        bool yes =
            text.Equals("yes", StringComparison.OrdinalIgnoreCase)
            || text.Equals("true", StringComparison.OrdinalIgnoreCase)
            || text.Equals("on", StringComparison.OrdinalIgnoreCase)
            || text is "1";
        bool no =
            text.Equals("no", StringComparison.OrdinalIgnoreCase)
            || text.Equals("false", StringComparison.OrdinalIgnoreCase)
            || text.Equals("off", StringComparison.OrdinalIgnoreCase)
            || text is "0";
        value = yes ? 1 : 0;
        return yes || no;
    }

    /// <summary>How many digits stand behind the decimal sign.</summary>
    public static int Decimals(ReadOnlySpan<char> text, char decimalSign)
    {
        text = text.Trim();
        int sign = text.LastIndexOf(decimalSign);
        return sign < 0 ? 0 : text.Length - sign - 1;
    }

    private static bool TrySlow(ReadOnlySpan<char> text, char decimalSign, out double value)
    {
        value = double.NaN;
        if (text.IsEmpty || text.Length > 64 || text.ContainsAnyExcept(NumberCharacters))
        {
            return false;
        }

        Span<char> plain = stackalloc char[text.Length];
        text.CopyTo(plain);
        plain.Replace(decimalSign, '.');
        return double.TryParse(plain, NumberStyles.Float, CultureInfo.InvariantCulture, out value) && double.IsFinite(value);
    }
}

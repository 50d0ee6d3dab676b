using System.Globalization;

namespace Remedos.Core.Money;

/// <summary>Amounts in a currency's minor unit, as they are written.</summary>
public static class Currency
{
    private const int UsualDigits = 2;

    /// <summary>Currencies whose minor unit is not a hundredth (ISO 4217).</summary>
    private static readonly Dictionary<string, int> Odd = new(StringComparer.Ordinal)
    {
        ["BIF"] = 0,
        ["CLP"] = 0,
        ["DJF"] = 0,
        ["GNF"] = 0,
        ["ISK"] = 0,
        ["JPY"] = 0,
        ["KMF"] = 0,
        ["KRW"] = 0,
        ["PYG"] = 0,
        ["RWF"] = 0,
        ["UGX"] = 0,
        ["VND"] = 0,
        ["VUV"] = 0,
        ["XAF"] = 0,
        ["XOF"] = 0,
        ["XPF"] = 0,
        ["BHD"] = 3,
        ["IQD"] = 3,
        ["JOD"] = 3,
        ["KWD"] = 3,
        ["LYD"] = 3,
        ["OMR"] = 3,
        ["TND"] = 3,
    };

    /// <summary>Places behind the point.</summary>
    /// <param name="code">Three letters.</param>
    public static int Digits(string code) => Odd.GetValueOrDefault(code, UsualDigits);

    /// <summary>An amount in the currency itself.</summary>
    public static decimal Major(long minor, string code)
    {
        decimal unit = 1;
        for (int i = 0; i < Digits(code); i++)
        {
            unit *= 10;
        }

        return minor / unit;
    }

    /// <summary>An amount without its currency: “1,234.50”.</summary>
    public static string Amount(long minor, string code) => Major(minor, code).ToString($"N{Digits(code)}", CultureInfo.InvariantCulture);

    /// <summary>An amount with its currency: “1,234.50 EUR”.</summary>
    public static string Words(long minor, string code) => $"{Amount(minor, code)} {code}";
}

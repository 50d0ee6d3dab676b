using System.Globalization;
using System.Text.Json.Serialization;

namespace Remedos.Core;

/// <summary>In which degrees a workshop reads temperatures.</summary>
[JsonConverter(typeof(KebabEnum<TemperatureUnit>))]
public enum TemperatureUnit
{
    /// <summary>°C.</summary>
    Celsius,

    /// <summary>°F.</summary>
    Fahrenheit,
}

/// <summary>
/// Temperatures as they are told to a person. Everything that computes, stores or is read by programs knows °C alone; the unit belongs to
/// whoever is told, as a culture does, and flows with the work that is done for them. Resistances stay in °C/W, as data sheets have them.
/// </summary>
public static class Degrees
{
    private static readonly AsyncLocal<TemperatureUnit> Told = new();

    /// <summary>The unit of whoever is told now; °C where nobody has said.</summary>
    public static TemperatureUnit Unit => Told.Value;

    /// <summary>°C or °F.</summary>
    public static string Sign => Unit == TemperatureUnit.Fahrenheit ? "°F" : "°C";

    /// <summary>From here on, in what is awaited from here, sentences are told in this unit.</summary>
    public static void TellIn(TemperatureUnit unit) => Told.Value = unit;

    /// <summary>A temperature, °C, as a number of the unit that is told.</summary>
    public static double Point(double c) => Unit == TemperatureUnit.Fahrenheit ? (c * 1.8) + 32 : c;

    /// <inheritdoc cref="Point(double)"/>
    public static double? Point(double? c) => c is { } known ? Point(known) : null;

    /// <summary>A difference of temperatures or a half-width, °C, as a number of the unit that is told.</summary>
    public static double Span(double c) => Unit == TemperatureUnit.Fahrenheit ? c * 1.8 : c;

    /// <inheritdoc cref="Span(double)"/>
    public static double? Span(double? c) => c is { } known ? Span(known) : null;

    /// <summary>A temperature with its unit: “73 °C”, “163 °F”.</summary>
    public static string At(double? c, string format = "0") => With(Point(c), format);

    /// <summary>A difference with its unit: “4 °C”, “7 °F”.</summary>
    public static string By(double? c, string format = "0") => With(Span(c), format);

    /// <summary>Round numbers of the unit from one temperature up to another, each with the °C at which it stands.</summary>
    public static IEnumerable<(double C, string Label)> Rungs(double lowC, double highC)
    {
        double every = Unit == TemperatureUnit.Fahrenheit ? 40 : 20;
        for (double told = Math.Ceiling(Point(lowC) / every) * every; told < Point(highC); told += every)
        {
            yield return (Unit == TemperatureUnit.Fahrenheit ? (told - 32) / 1.8 : told, told.ToString("0", CultureInfo.InvariantCulture));
        }
    }

    private static string With(double? value, string format) =>
        value is { } known ? $"{known.ToString(format, CultureInfo.InvariantCulture).Replace('-', '−')} {Sign}" : "unknown";
}

using System.Text.Json;
using System.Text.Json.Serialization;

namespace Remedos.Core;

/// <summary>Writes the values of a closed set as kebab words: <c>FirstPower</c> is “first-power”.</summary>
public sealed class KebabEnum<T>() : JsonStringEnumConverter<T>(JsonNamingPolicy.KebabCaseLower, allowIntegerValues: false)
    where T : struct, Enum;

/// <summary>The same words outside of JSON: in an address, in a table.</summary>
public static class Kebab
{
    /// <summary>The word of a value.</summary>
    public static string Of<T>(T value)
        where T : struct, Enum => JsonNamingPolicy.KebabCaseLower.ConvertName(value.ToString());

    /// <summary>All words of a set, as a sentence lists them.</summary>
    public static string Words<T>()
        where T : struct, Enum => string.Join(", ", Enum.GetValues<T>().Select(Of));

    /// <summary>The value of a word; null where there is none.</summary>
    public static T? Parse<T>(string word)
        where T : struct, Enum => Enum.GetValues<T>().Cast<T?>().FirstOrDefault(value => Of(value!.Value) == word);
}

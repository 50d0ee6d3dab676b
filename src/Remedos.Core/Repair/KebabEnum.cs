using System.Text.Json;
using System.Text.Json.Serialization;

namespace Remedos.Core.Repair;

/// <summary>Writes the values of a closed set as kebab words: <c>FirstPower</c> is “first-power”.</summary>
public sealed class KebabEnum<T>() : JsonStringEnumConverter<T>(JsonNamingPolicy.KebabCaseLower, allowIntegerValues: false)
    where T : struct, Enum;

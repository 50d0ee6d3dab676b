using System.Text.Json;
using Remedos.Core.Bays;

namespace Remedos.Bench.Sending;

/// <summary>Lines of the bay protocol.</summary>
internal static class Wire
{
    public static string Line(BayReading reading) => BayLine.Of(reading);

    public static string Line(BayHello hello) => $"{{\"hello\":{JsonSerializer.Serialize(hello, WireJson.Default.BayHello)}}}";

    public static string Note(string words) => $"{{\"note\":\"{JsonEncodedText.Encode(words)}\"}}";
}

using System.Globalization;
using System.Text;
using System.Text.Json;
using Remedos.Core.Bays;
using Remedos.Core.Logs;

namespace Remedos.Bench.Sending;

/// <summary>Lines of the bay protocol.</summary>
internal static class Wire
{
    public static string Line(BayReading reading)
    {
        StringBuilder line = new();
        line.Append(CultureInfo.InvariantCulture, $"{{\"seq\":{reading.Sequence},\"t\":{reading.Seconds:0.###}");
        foreach (IGrouping<ChannelRole, KeyValuePair<BayChannel, double>> role in reading.Values.GroupBy(pair => pair.Key.Role))
        {
            line.Append(",\"").Append(role.Key.Name()).Append("\":");
            int last = role.Max(pair => pair.Key.Index);
            if (last == 0)
            {
                line.Append(Number(role.Single().Value));
                continue;
            }

            Dictionary<int, double> values = role.ToDictionary(pair => pair.Key.Index, pair => pair.Value);
            line.Append('[')
                .AppendJoin(
                    ',',
                    Enumerable.Range(0, last + 1).Select(i => values.TryGetValue(i, out double value) ? Number(value) : "null")
                )
                .Append(']');
        }

        return line.Append('}').ToString();
    }

    public static string Line(BayHello hello) => $"{{\"hello\":{JsonSerializer.Serialize(hello, WireJson.Default.BayHello)}}}";

    public static string Note(string words) => $"{{\"note\":\"{JsonEncodedText.Encode(words)}\"}}";

    private static string Number(double value) => value.ToString("0.###", CultureInfo.InvariantCulture);
}

using System.Text.Json;
using Remedos.Core.Logs;

namespace Remedos.Core.Bays;

/// <summary>One reading as a machine under test sends it: a line of JSON (docs/formats.md, “The bay protocol”).</summary>
/// <param name="Sequence">From 1, one more each reading.</param>
/// <param name="Seconds">On the sender's own clock, since it began; never runs backwards.</param>
/// <param name="Values">By role, in the role's unit; what was not read is not there.</param>
public sealed record BayReading(long Sequence, double Seconds, IReadOnlyDictionary<ChannelRole, double> Values)
{
    /// <summary>Reads a line.</summary>
    /// <returns>The reading, or why it is none, as a sentence.</returns>
    public static (BayReading? Reading, string? Problem) Parse(string line)
    {
        try
        {
            using JsonDocument document = JsonDocument.Parse(line);
            if (document.RootElement.ValueKind != JsonValueKind.Object)
            {
                return (null, "expected an object such as { \"seq\": 1, \"t\": 0.0, \"cpu-temperature\": 34.0 }.");
            }

            (long sequence, double seconds) = (0, double.NaN);
            Dictionary<ChannelRole, double> values = [];
            foreach (JsonProperty property in document.RootElement.EnumerateObject())
            {
                if (property.Value.ValueKind == JsonValueKind.Null)
                {
                    continue;
                }

                bool isNumber = property.Value.ValueKind == JsonValueKind.Number && property.Value.TryGetDouble(out _);
                double value = isNumber ? property.Value.GetDouble() : property.Value.ValueKind == JsonValueKind.True ? 1 : property.Value.ValueKind == JsonValueKind.False ? 0 : double.NaN;
                if (!double.IsFinite(value))
                {
                    return (null, $"“{property.Name}” is no number.");
                }

                switch (property.Name)
                {
                    case "seq" when value >= 1 && value == Math.Floor(value):
                        sequence = (long)value;
                        break;
                    case "t" when value >= 0:
                        seconds = value;
                        break;
                    default:
                        if (!ChannelRoles.TryParse(property.Name, out ChannelRole role) || role is ChannelRole.Time or ChannelRole.Other)
                        {
                            return (null, $"“{property.Name}” is {(property.Name is "seq" or "t" ? $"{value}, and must not be" : "no role that a reading can have")}.");
                        }

                        values[role] = value;
                        break;
                }
            }

            return sequence == 0 ? (null, "“seq” is missing.") : double.IsNaN(seconds) ? (null, "“t” is missing.") : (new BayReading(sequence, seconds, values), null);
        }
        catch (JsonException problem)
        {
            return (null, $"no JSON at letter {problem.BytePositionInLine + 1}.");
        }
    }

    /// <summary>Readings as a log, its time from the first of them.</summary>
    public static Log ToLog(IReadOnlyList<BayReading> readings)
    {
        double start = readings.Count == 0 ? 0 : readings[0].Seconds, last = 0;
        ChannelRole[] roles = [.. readings.SelectMany(reading => reading.Values.Keys).Distinct().Order()];
        return new Log(
            [.. readings.Select(reading => last = Math.Max(last, reading.Seconds - start))],
            [
                new Channel(0, "time", ChannelRole.Time, "s", [], readings.Count, 0, null),
                .. roles.Select((role, column) =>
                {
                    float[] values = [.. readings.Select(reading => reading.Values.TryGetValue(role, out double value) ? (float)value : float.NaN)];
                    float[] there = [.. values.Where(value => !float.IsNaN(value))];
                    return new Channel(column + 1, role.Name(), role, role.Unit()?.Canonical ?? "", values, there.Length, 0, there.Length == 0 ? null : there.Average());
                }),
            ],
            null, []);
    }
}

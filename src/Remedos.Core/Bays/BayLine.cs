using System.Globalization;
using System.Text;
using System.Text.Json;
using Remedos.Core.Logs;

namespace Remedos.Core.Bays;

/// <summary>A line of the bay protocol (docs/formats.md): a reading, a hello or a note; or why it is none of them.</summary>
/// <param name="LeftOut">Sentences for values that cannot be and were taken out of the reading.</param>
public sealed record BayLine(BayReading? Reading, BayHello? Hello, string? Note, string? Problem, IReadOnlyList<string> LeftOut)
{
    private const int MostOfOneRole = 1024,
        LongestText = 300,
        MostMissing = 60;

    /// <summary>A reading as a line.</summary>
    public static string Of(BayReading reading)
    {
        StringBuilder line = new();
        line.Append(CultureInfo.InvariantCulture, $"{{\"seq\":{reading.Sequence},\"t\":{reading.Seconds:0.###}");
        foreach (IGrouping<ChannelRole, KeyValuePair<BayChannel, double>> role in reading.Values.GroupBy(pair => pair.Key.Role))
        {
            line.Append(",\"").Append(role.Key.Name()).Append("\":");
            int last = role.Max(pair => pair.Key.Index);
            if (last == 0)
            {
                line.Append(Text(role.Single().Value));
                continue;
            }

            Dictionary<int, double> values = role.ToDictionary(pair => pair.Key.Index, pair => pair.Value);
            line.Append('[')
                .AppendJoin(',', Enumerable.Range(0, last + 1).Select(i => values.TryGetValue(i, out double value) ? Text(value) : "null"))
                .Append(']');
        }

        return line.Append('}').ToString();
    }

    private static string Text(double value) => value.ToString("0.###", CultureInfo.InvariantCulture);

    /// <summary>
    /// Reads a line. What is no line of the protocol at all is a problem; a single value that cannot be is left out, so that a sensor's
    /// fault stops nobody.
    /// </summary>
    public static BayLine Parse(string line)
    {
        try
        {
            using JsonDocument document = JsonDocument.Parse(line);
            JsonElement root = document.RootElement;
            return root.ValueKind != JsonValueKind.Object
                    ? Wrong("expected an object such as { \"seq\": 1, \"t\": 0.0, \"cpu-temperature\": 34.0 }.")
                : root.TryGetProperty("hello", out JsonElement hello) ? HelloOf(hello)
                : root.TryGetProperty("note", out JsonElement note)
                    ? note.ValueKind == JsonValueKind.String ? new BayLine(null, null, Short(note.GetString()!), null, [])
                        : Wrong("“note” is no text.")
                : ReadingOf(root);
        }
        catch (InvalidOperationException)
        {
            return Wrong("a text in it holds half a letter.");
        }
        catch (JsonException problem)
        {
            return Wrong($"no JSON at letter {problem.BytePositionInLine + 1}.");
        }
    }

    private static BayLine ReadingOf(JsonElement root)
    {
        (long sequence, double seconds) = (0, double.NaN);
        Dictionary<BayChannel, double> values = [];
        List<string> leftOut = [];
        foreach (JsonProperty property in root.EnumerateObject())
        {
            if (property.Value.ValueKind == JsonValueKind.Null)
            {
                continue;
            }

            if (property.Name is "seq" or "t")
            {
                double number = Number(property.Value);
                bool can =
                    property.Name == "seq" ? number >= 1 && number == Math.Floor(number) && number < 1e15 : number is >= 0 and < 1e10;
                if (!can)
                {
                    return Wrong($"“{property.Name}” is " + (double.IsNaN(number) ? "no number." : $"{number}, and must not be."));
                }

                (sequence, seconds) = property.Name == "seq" ? ((long)number, seconds) : (sequence, number);
                continue;
            }

            if (!ChannelRoles.TryParse(property.Name, out ChannelRole role) || role is ChannelRole.Time or ChannelRole.Other)
            {
                return Wrong($"“{property.Name}” is no role that a reading can have.");
            }

            if (property.Value.ValueKind == JsonValueKind.Array)
            {
                if (property.Value.GetArrayLength() > MostOfOneRole)
                {
                    return Wrong($"“{property.Name}” has {property.Value.GetArrayLength()} values; {MostOfOneRole} are the most.");
                }

                int index = 0;
                foreach (JsonElement one in property.Value.EnumerateArray())
                {
                    if (one.ValueKind != JsonValueKind.Null && !Take(new BayChannel(role, index), Number(one)))
                    {
                        return Wrong($"“{property.Name}” holds what is no number.");
                    }

                    index++;
                }
            }
            else if (!Take(new BayChannel(role), Number(property.Value)))
            {
                return Wrong($"“{property.Name}” is no number.");
            }
        }

        return sequence == 0 ? Wrong("“seq” is missing.")
            : double.IsNaN(seconds) ? Wrong("“t” is missing.")
            : new BayLine(new BayReading(sequence, seconds, values), null, null, null, leftOut);

        bool Take(BayChannel channel, double value)
        {
            (float low, float high) = Rejection.Possible(channel.Role.Unit()?.Canonical ?? "");
            if (value >= low && value <= high)
            {
                values[channel] = value;
            }
            else if (!double.IsNaN(value))
            {
                leftOut.Add($"Reading {sequence}: {channel.Name} of {value:0.###} cannot be ({low:0} to {high:0} can) and was left out.");
            }

            return !double.IsNaN(value);
        }
    }

    private static BayLine HelloOf(JsonElement hello)
    {
        if (hello.ValueKind != JsonValueKind.Object)
        {
            return Wrong("“hello” is an object such as { \"machine\": \"…\", \"obeys\": [\"load\"], \"missing\": [] }.");
        }

        if (
            hello.TryGetProperty("missing", out JsonElement lacks)
            && lacks.ValueKind == JsonValueKind.Array
            && lacks.GetArrayLength() > MostMissing
        )
        {
            return Wrong($"“hello.missing” has {lacks.GetArrayLength()} entries; {MostMissing} are the most.");
        }

        string? machine =
            hello.TryGetProperty("machine", out JsonElement words) && words.ValueKind == JsonValueKind.String
                ? Short(words.GetString()!)
                : null;
        string[] Texts(string name) =>
            hello.TryGetProperty(name, out JsonElement list) && list.ValueKind == JsonValueKind.Array
                ? [.. list.EnumerateArray().Where(one => one.ValueKind == JsonValueKind.String).Select(one => one.GetString()!)]
                : [];
        string[] obeys = [.. Texts("obeys").Distinct()],
            missing = [.. Texts("missing").Distinct()];
        return obeys.FirstOrDefault(one => !BayHello.AllObeys.Contains(one)) is { } unknown
                ? Wrong($"“hello.obeys” knows {string.Join(", ", BayHello.AllObeys)}, not “{Short(unknown)}”.")
            : missing.FirstOrDefault(one => !ChannelRoles.TryParse(one, out _)) is { } none
                ? Wrong($"“hello.missing” holds “{Short(none)}”, which is no role.")
            : new BayLine(
                null,
                new BayHello(
                    machine,
                    obeys,
                    missing,
                    hello.TryGetProperty("simulated", out JsonElement simulated) && simulated.ValueKind == JsonValueKind.True
                ),
                null,
                null,
                []
            );
    }

    private static double Number(JsonElement value) =>
        value.ValueKind switch
        {
            JsonValueKind.Number when value.TryGetDouble(out double number) && double.IsFinite(number) => number,
            JsonValueKind.True => 1,
            JsonValueKind.False => 0,
            _ => double.NaN,
        };

    /// <summary>A text as it can be kept: no control letters, no half ones.</summary>
    public static string Clean(string text)
    {
        System.Text.StringBuilder kept = new(text.Length);
        foreach (System.Text.Rune letter in text.EnumerateRunes())
        {
            if (!System.Text.Rune.IsControl(letter) && kept.Length + letter.Utf16SequenceLength <= LongestText)
            {
                kept.Append(letter.ToString());
            }
        }

        return kept.ToString();
    }

    private static string Short(string text) => Clean(text);

    private static BayLine Wrong(string sentence) => new(null, null, null, sentence, []);
}

using System.Text;

namespace Remedos.Core.Logs;

/// <summary>A header cell taken apart: its words in lower case and the unit it names, if any.</summary>
public sealed record ChannelName(string Source, IReadOnlyList<string> Words, ChannelUnit? Unit)
{
    /// <summary>
    /// Takes a header apart, however it was written: "CPU clock [GHz]", "cpu_temp_c", "core0Temperature", "Processor temp, °C".
    /// </summary>
    /// <param name="source">The header as written.</param>
    /// <param name="unitRow">The cell below it in a row of units, or null.</param>
    public static ChannelName Parse(string source, string? unitRow = null)
    {
        ChannelUnit? unit = null;
        string name = source;
        if (unitRow is not null && ChannelUnit.TryParse(unitRow.Trim().Trim('[', ']', '(', ')'), out ChannelUnit fromRow))
        {
            unit = fromRow;
        }

        if (name.EndsWith("dB(A)", StringComparison.OrdinalIgnoreCase))
        {
            // The bracket is the unit's own.
            unit ??= ChannelUnit.TryParse("dBA", out ChannelUnit level) ? level : null;
            name = name[..^5];
        }
        else if (InBrackets(name) is var (start, length, inside) && ChannelUnit.TryParse(inside, out ChannelUnit fromBrackets))
        {
            unit ??= fromBrackets;
            name = name.Remove(start, length);
        }
        else if (name.LastIndexOf(',') is var comma and > 0 && ChannelUnit.TryParse(name[(comma + 1)..], out ChannelUnit afterComma))
        {
            unit ??= afterComma;
            name = name[..comma];
        }

        List<string> words = Split(name);
        if (unit is null && words.Count > 1 && ChannelUnit.TryParse(words[^1], out ChannelUnit suffix))
        {
            unit = suffix;
            words.RemoveAt(words.Count - 1);
        }

        return new ChannelName(source, words, unit);
    }

    /// <summary>Words of loggers that speak another language, as the rules know them.</summary>
    private static readonly Dictionary<string, string[]> OtherTongues = new(StringComparer.Ordinal)
    {
        ["prozessor"] = ["cpu"],
        ["processeur"] = ["cpu"],
        ["procesador"] = ["cpu"],
        ["processore"] = ["cpu"],
        ["prozessortemperatur"] = ["cpu", "temperature"],
        ["temperatur"] = ["temperature"],
        ["température"] = ["temperature"],
        ["temperatura"] = ["temperature"],
        ["raumtemperatur"] = ["room", "temperature"],
        ["raum"] = ["room"],
        ["umgebung"] = ["ambient"],
        ["umgebungstemperatur"] = ["ambient", "temperature"],
        ["ambiante"] = ["ambient"],
        ["ambiente"] = ["ambient"],
        ["gehäuse"] = ["case"],
        ["boîtier"] = ["case"],
        ["caja"] = ["case"],
        ["kern"] = ["core"],
        ["cœur"] = ["core"],
        ["núcleo"] = ["core"],
        ["leistung"] = ["power"],
        ["leistungsaufnahme"] = ["power"],
        ["puissance"] = ["power"],
        ["potencia"] = ["power"],
        ["takt"] = ["clock"],
        ["taktfrequenz"] = ["clock"],
        ["fréquence"] = ["clock"],
        ["frecuencia"] = ["clock"],
        ["auslastung"] = ["load"],
        ["charge"] = ["load"],
        ["carga"] = ["load"],
        ["lüfter"] = ["fan"],
        ["lüfterdrehzahl"] = ["fan"],
        ["ventilateur"] = ["fan"],
        ["ventilador"] = ["fan"],
        ["pumpe"] = ["pump"],
        ["pompe"] = ["pump"],
        ["grafikkarte"] = ["gpu"],
        ["grafik"] = ["gpu"],
        ["kühlmittel"] = ["coolant"],
        ["wassertemperatur"] = ["coolant", "temperature"],
        ["zeit"] = ["time"],
        ["uhrzeit"] = ["time"],
        ["zeitstempel"] = ["timestamp"],
        ["datum"] = ["date"],
        ["heure"] = ["time"],
        ["temps"] = ["time"],
        ["hora"] = ["time"],
        ["fecha"] = ["date"],
    };

    /// <summary>Whether the name holds one of these words.</summary>
    public bool Has(params ReadOnlySpan<string> anyOf)
    {
        foreach (string word in anyOf)
        {
            if (Words.Contains(word))
            {
                return true;
            }
        }

        return false;
    }

    private static (int Start, int Length, string Inside)? InBrackets(string name)
    {
        foreach ((char open, char close) in new[] { ('[', ']'), ('(', ')') })
        {
            int end = name.LastIndexOf(close);
            int start = end > 0 ? name.LastIndexOf(open, end) : -1;
            // "dB(A)" inside brackets holds brackets of its own: step out once more.
            if (
                start > 0
                && open == '('
                && name[..start].LastIndexOf('(') is var outer and >= 0
                && name.EndsWith("))", StringComparison.Ordinal)
            )
            {
                start = outer;
            }

            if (start >= 0)
            {
                return (start, end - start + 1, name[(start + 1)..end]);
            }
        }

        return null;
    }

    /// <summary>Words of snake_case, camelCase and spaced names; digits stand apart.</summary>
    private static List<string> Split(string name)
    {
        List<string> words = [];
        StringBuilder word = new();
        for (int i = 0; i < name.Length; i++)
        {
            char c = name[i];
            bool boundary =
                i > 0
                && word.Length > 0
                && ((char.IsUpper(c) && char.IsLower(name[i - 1])) || char.IsDigit(c) != char.IsDigit(name[i - 1]));
            if (boundary || !(char.IsLetterOrDigit(c) || c is '%' or '°'))
            {
                Flush();
            }

            if (char.IsLetterOrDigit(c) || c is '%' or '°')
            {
                word.Append(char.ToLowerInvariant(c));
            }
        }

        Flush();
        return words;

        void Flush()
        {
            if (word.Length > 0)
            {
                string found = word.ToString();
                // "SoC" parts where its letters change case.
                if (found == "c" && words.Count > 0 && words[^1] == "so")
                {
                    words[^1] = "soc";
                }
                else if (OtherTongues.TryGetValue(found, out string[]? meant))
                {
                    words.AddRange(meant);
                }
                else
                {
                    words.Add(found);
                }

                word.Clear();
            }
        }
    }
}

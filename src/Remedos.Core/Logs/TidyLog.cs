using System.Globalization;

namespace Remedos.Core.Logs;

/// <summary>
/// Writes a log as one tidy table: comma, point, elapsed seconds, canonical units in a second row, roles as names. It reads back to the
/// same result.
/// </summary>
public static class TidyLog
{
    /// <summary>Writes header, units and rows; missing and rejected samples are empty cells.</summary>
    public static void Write(Log log, TextWriter text)
    {
        Channel[] channels = [.. log.Channels.Where(channel => channel.Role != ChannelRole.Time)];
        text.Write("time");
        foreach (Channel channel in channels)
        {
            text.Write(',');
            text.Write(Quoted(Name(channel, channels)));
        }

        text.Write("\ns");
        foreach (Channel channel in channels)
        {
            text.Write(',');
            text.Write(channel.Unit == "C" ? "°C" : channel.Unit);
        }

        text.Write('\n');
        for (int row = 0; row < log.Samples; row++)
        {
            text.Write(log.TimeSeconds[row].ToString(CultureInfo.InvariantCulture));
            foreach (Channel channel in channels)
            {
                text.Write(',');
                text.Write(float.IsNaN(channel.Values[row]) ? "" : channel.Values[row].ToString(CultureInfo.InvariantCulture));
            }

            text.Write('\n');
        }
    }

    /// <summary>The role, counted where several columns have it; a column that is not used keeps its own name behind that word.</summary>
    private static string Name(Channel channel, Channel[] all)
    {
        if (channel.Role == ChannelRole.Other)
        {
            return $"unused {channel.Source.ReplaceLineEndings(" ")}";
        }

        Channel[] same = [.. all.Where(other => other.Role == channel.Role)];
        return same.Length == 1 ? channel.Role.Name() : $"{channel.Role.Name()} {Array.IndexOf(same, channel) + 1}";
    }

    private static string Quoted(string name) =>
        name.AsSpan().ContainsAny(',', '"') ? $"\"{name.Replace("\"", "\"\"", StringComparison.Ordinal)}\"" : name;
}

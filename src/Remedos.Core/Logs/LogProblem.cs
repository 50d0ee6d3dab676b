namespace Remedos.Core.Logs;

/// <summary>Why a log could not be read, in words for a technician.</summary>
/// <param name="Code">One of the contract's categories: no-rows, not-text, no-temperature, no-time, no-numbers, time-stands-still,
/// row-too-long.</param>
/// <param name="Message">One sentence: what is wrong and what was expected.</param>
/// <param name="Line">Line of the file, from 1, where there is one.</param>
/// <param name="Column">Column of the table, from 1, where there is one.</param>
public sealed record LogProblem(string Code, string Message, long? Line = null, int? Column = null)
{
    /// <summary>The sentence with its place in front, for one line of text.</summary>
    public string Located =>
        Line is null ? Message
        : Column is null ? $"line {Line}: {Message}"
        : $"line {Line}, column {Column}: {Message}";
}

/// <summary>Something that was left out, repaired or assumed, which the reader of a result should know.</summary>
/// <param name="Code">A stable kebab-case code.</param>
/// <param name="Message">One sentence in trade words.</param>
public sealed record Warning(string Code, string Message);

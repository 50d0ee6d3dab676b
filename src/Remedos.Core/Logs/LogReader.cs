using System.Diagnostics.CodeAnalysis;
using System.Text;

namespace Remedos.Core.Logs;

/// <summary>Reads a logger's text table into channels, streaming; see this folder's README for the seams.</summary>
public static class LogReader
{
    private const int HeadBytes = 1 << 18;

    /// <summary>Reads a log.</summary>
    /// <param name="stream">The file's bytes, from the start.</param>
    /// <param name="progress">Told the number of bytes read so far, every few thousand rows.</param>
    /// <param name="remembered">What a technician has said of the columns of a header, by its fingerprint: roles by column; null for
    /// nothing.</param>
    /// <param name="cancellation">Stops the reading.</param>
    /// <returns>The log, or a problem with its place. Never throws for what stands in the file.</returns>
    public static LogReading Read(
        Stream stream,
        IProgress<long>? progress = null,
        Func<string, IReadOnlyDictionary<int, ChannelRole>?>? remembered = null,
        CancellationToken cancellation = default
    )
    {
        if (!TryHead(stream, out Head? head, out LogProblem? problem))
        {
            return new LogReading(null, problem);
        }

        using CountingStream counted = new(new MemoryStream(head.Bytes, head.Mark, head.Length - head.Mark, writable: false), stream);
        using StreamReader text = new(counted, head.Encoding, detectEncodingFromByteOrderMarks: false, bufferSize: 1 << 16);
        return new LogTable(head.Dialect, remembered) { Bytes = stream.CanSeek ? stream.Length : 0 }.Read(
            new RowScanner(text, head.Dialect.Delimiter),
            counted,
            progress,
            cancellation
        );
    }

    /// <summary>What the columns of a log are taken for, from its first rows alone; null when it is no table.</summary>
    public static LogColumns? Columns(Stream stream, Func<string, IReadOnlyDictionary<int, ChannelRole>?>? remembered = null) =>
        TryHead(stream, out Head? head, out _) ? new LogTable(head.Dialect, remembered).Guessed() : null;

    private sealed record Head(byte[] Bytes, int Length, int Mark, Encoding Encoding, LogDialect Dialect);

    /// <summary>Reads enough of a file to know its encoding and dialect.</summary>
    private static bool TryHead(Stream stream, [NotNullWhen(true)] out Head? head, out LogProblem? problem)
    {
        head = null;
        byte[] bytes = new byte[HeadBytes];
        int length = stream.ReadAtLeast(bytes, bytes.Length, throwOnEndOfStream: false);
        (Encoding? encoding, int mark, problem) = TextDetection.Detect(bytes.AsSpan(0, length));
        if (encoding is null)
        {
            return false;
        }

        (LogDialect? dialect, problem) = LogDialect.Detect(
            encoding.GetString(bytes.AsSpan(mark, length - mark)),
            whole: length < bytes.Length
        );
        head = dialect is null ? null : new Head(bytes, length, mark, encoding, dialect);
        return head is not null;
    }
}

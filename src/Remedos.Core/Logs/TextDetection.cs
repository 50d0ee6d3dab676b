using System.Buffers;
using System.Text;

namespace Remedos.Core.Logs;

/// <summary>Decides from a file's first bytes whether it is text, and in which encoding.</summary>
public static class TextDetection
{
    private static readonly (byte[] Mark, string What)[] OtherFiles =
    [
        ([0x89, (byte)'P', (byte)'N', (byte)'G'], "a picture (PNG)"),
        ([0xFF, 0xD8, 0xFF], "a picture (JPEG)"),
        ([(byte)'G', (byte)'I', (byte)'F', (byte)'8'], "a picture (GIF)"),
        ([(byte)'%', (byte)'P', (byte)'D', (byte)'F'], "a PDF document"),
        ([(byte)'P', (byte)'K', 3, 4], "a packed file (ZIP or a spreadsheet)"),
        ([0x1F, 0x8B], "a packed file (gzip)"),
    ];

    /// <summary>The encoding of <paramref name="head"/> and the length of its byte-order mark, or a problem.</summary>
    /// <param name="head">The file's first bytes; some hundred kilobytes are enough.</param>
    public static (Encoding? Encoding, int MarkLength, LogProblem? Problem) Detect(ReadOnlySpan<byte> head)
    {
        foreach ((byte[] mark, string what) in OtherFiles)
        {
            if (head.StartsWith(mark))
            {
                return (
                    null,
                    0,
                    new LogProblem("not-text", $"This is {what}, not a log. A log is a text table (CSV or TSV) with a header line.")
                );
            }
        }

        if (head.StartsWith((ReadOnlySpan<byte>)[0xEF, 0xBB, 0xBF]))
        {
            return (Encoding.UTF8, 3, null);
        }

        if (head.StartsWith((ReadOnlySpan<byte>)[0xFF, 0xFE]))
        {
            return (Encoding.Unicode, 2, null);
        }

        if (head.StartsWith((ReadOnlySpan<byte>)[0xFE, 0xFF]))
        {
            return (Encoding.BigEndianUnicode, 2, null);
        }

        if (Utf16WithoutMark(head) is { } utf16)
        {
            return (utf16, 0, null);
        }

        if (ControlShare(head) > 0.005)
        {
            return (
                null,
                0,
                new LogProblem(
                    "not-text",
                    "This file is not text: it holds bytes that no log has. A log is a text table (CSV or TSV) with a header line."
                )
            );
        }

        return IsUtf8(head) ? (Encoding.UTF8, 0, null) : (CodePagesEncodingProvider.Instance.GetEncoding(1252)!, 0, null);
    }

    private static double ControlShare(ReadOnlySpan<byte> head)
    {
        int controls = 0;
        foreach (byte b in head)
        {
            controls += b < 32 && b is not ((byte)'\t' or (byte)'\n' or (byte)'\r' or 12) ? 1 : 0;
        }

        return head.IsEmpty ? 0 : (double)controls / head.Length;
    }

    private static UnicodeEncoding? Utf16WithoutMark(ReadOnlySpan<byte> head)
    {
        int even = 0,
            odd = 0,
            pairs = head.Length / 2;
        for (int i = 0; i + 1 < head.Length; i += 2)
        {
            even += head[i] == 0 ? 1 : 0;
            odd += head[i + 1] == 0 ? 1 : 0;
        }

        return pairs < 8 ? null
            : odd > 0.9 * pairs && even == 0 ? new UnicodeEncoding(bigEndian: false, byteOrderMark: false)
            : even > 0.9 * pairs && odd == 0 ? new UnicodeEncoding(bigEndian: true, byteOrderMark: false)
            : null;
    }

    private static bool IsUtf8(ReadOnlySpan<byte> head)
    {
        while (!head.IsEmpty)
        {
            OperationStatus status = Rune.DecodeFromUtf8(head, out _, out int consumed);
            if (status == OperationStatus.NeedMoreData)
            {
                return true;
            }

            if (status != OperationStatus.Done)
            {
                return false;
            }

            head = head[consumed..];
        }

        return true;
    }
}

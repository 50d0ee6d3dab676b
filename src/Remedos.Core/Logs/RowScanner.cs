using System.Buffers;
using System.Numerics;
using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;

namespace Remedos.Core.Logs;

/// <summary>
/// Splits a text table into rows and fields without copying them: a field is a span into one buffer, valid until the next row.
/// Quotes as in RFC 4180. Knows what a general reader hides and a log needs: the line of each row and whether the file's
/// last row was closed by a line end.
/// </summary>
internal sealed class RowScanner(TextReader text, char delimiter)
{
    /// <summary>A row longer than this is no row of a log but a file without line ends.</summary>
    private const int LongestRow = 1 << 20;

    private readonly SearchValues<char> _stops = SearchValues.Create([delimiter, '\n', '\r', '"']);
    private char[] _buffer = new char[1 << 17];
    private int _start,
        _end;
    private (int Start, int Length)[] _fields = new (int, int)[64];
    private bool _ended;
    private long _nextLine = 1;

    public int FieldCount { get; private set; }

    /// <summary>Line of the current row, from 1.</summary>
    public long Line { get; private set; }

    /// <summary>False for a last row that no line end closes: it may have been cut.</summary>
    public bool Closed { get; private set; }

    /// <summary>True when a row outgrew the longest that a log may have; reading stops there.</summary>
    public bool RowTooLong { get; private set; }

    public ReadOnlySpan<char> Field(int index) =>
        index < FieldCount ? _buffer.AsSpan(_fields[index].Start, _fields[index].Length) : default;

    /// <summary>The letters of the current row, from its first field to its last.</summary>
    /// <param name="fields">Receives where each field lies in them; those that the row lacks are empty.</param>
    /// <param name="shift">Added to each start.</param>
    public ReadOnlySpan<char> Row(Span<(int Start, int Length)> fields, int shift)
    {
        int start = FieldCount > 0 ? _fields[0].Start : 0,
            count = Math.Min(FieldCount, fields.Length);
        for (int i = 0; i < count; i++)
        {
            fields[i] = (_fields[i].Start - start + shift, _fields[i].Length);
        }

        fields[count..].Clear();
        return count == 0 ? default : _buffer.AsSpan(start, _fields[count - 1].Start + _fields[count - 1].Length - start);
    }

    public bool Read()
    {
        FieldCount = 0;
        Line = _nextLine;
        int position = _start,
            fieldStart = _start;
        if (ReadPlainRow(ref position, ref fieldStart))
        {
            return true;
        }

        bool any = FieldCount > 0;
        while (true)
        {
            int stop = position < _end ? _buffer.AsSpan(position, _end - position).IndexOfAny(_stops) : -1;
            if (stop < 0)
            {
                position = _end;
                if (Fill(ref position, ref fieldStart))
                {
                    continue;
                }

                if (RowTooLong || (!any && position == fieldStart))
                {
                    return false;
                }

                AddField(fieldStart, position);
                _start = position;
                Closed = false;
                return true;
            }

            any = true;
            position += stop;
            char c = _buffer[position];
            if (c == '"')
            {
                if (position != fieldStart)
                {
                    position++; // a quote inside a bare field is a character like another
                    continue;
                }

                if (!ReadQuoted(ref position, ref fieldStart))
                {
                    return !RowTooLong && FieldCount > 0;
                }

                if (position >= _end && !Fill(ref position, ref fieldStart))
                {
                    _start = position;
                    Closed = false;
                    return true;
                }

                c = _buffer[position];
                if (c == delimiter)
                {
                    fieldStart = ++position;
                    continue;
                }
            }
            else
            {
                AddField(fieldStart, position);
                if (c == delimiter)
                {
                    fieldStart = ++position;
                    continue;
                }
            }

            if (c == '\r')
            {
                if (position + 1 >= _end)
                {
                    position++;
                    bool more = Fill(ref position, ref fieldStart);
                    position--;
                    if (!more)
                    {
                        return EndRow(position + 1);
                    }
                }

                return EndRow(_buffer[position + 1] == '\n' ? position + 2 : position + 1);
            }

            if (c == '\n')
            {
                return EndRow(position + 1);
            }
        }
    }

    /// <summary>
    /// The way of nearly every row: looks at sixteen characters at once and parts them at delimiters. Stops where care is needed (a quote,
    /// a
    /// carriage return, the end of the buffer), and leaves the rest of the row to the careful way.
    /// </summary>
    private bool ReadPlainRow(ref int position, ref int fieldStart)
    {
        Vector256<ushort> delimiters = Vector256.Create((ushort)delimiter),
            feeds = Vector256.Create((ushort)'\n'),
            returns = Vector256.Create((ushort)'\r'),
            quotes = Vector256.Create((ushort)'"');
        ref ushort buffer = ref Unsafe.As<char, ushort>(ref MemoryMarshal.GetArrayDataReference(_buffer));
        while (position + Vector256<ushort>.Count <= _end)
        {
            Vector256<ushort> letters = Vector256.LoadUnsafe(ref buffer, (nuint)position);
            uint stops = (
                Vector256.Equals(letters, delimiters)
                | Vector256.Equals(letters, feeds)
                | Vector256.Equals(letters, returns)
                | Vector256.Equals(letters, quotes)
            ).ExtractMostSignificantBits();
            while (stops != 0)
            {
                int at = position + BitOperations.TrailingZeroCount(stops);
                char c = _buffer[at];
                if (c == delimiter)
                {
                    AddField(fieldStart, at);
                    fieldStart = at + 1;
                    stops &= stops - 1;
                }
                else if (c == '\n')
                {
                    AddField(fieldStart, at);
                    return EndRow(at + 1);
                }
                else
                {
                    position = at;
                    return false;
                }
            }

            position += Vector256<ushort>.Count;
        }

        return false;
    }

    private bool EndRow(int next)
    {
        _start = next;
        _nextLine++;
        Closed = true;
        return true;
    }

    /// <summary>
    /// Reads a quoted field from its opening quote; leaves position behind whatever follows the closing one, up to the next stop.
    /// </summary>
    private bool ReadQuoted(ref int position, ref int fieldStart)
    {
        position++;
        while (true)
        {
            int quote = position < _end ? _buffer.AsSpan(position, _end - position).IndexOf('"') : -1;
            if (quote < 0)
            {
                _nextLine += position < _end ? _buffer.AsSpan(position, _end - position).Count('\n') : 0;
                position = _end;
                if (Fill(ref position, ref fieldStart))
                {
                    continue;
                }

                AddField(fieldStart + 1, Math.Max(position, fieldStart + 1));
                _start = position;
                Closed = false;
                return false;
            }

            _nextLine += _buffer.AsSpan(position, quote).Count('\n');
            position += quote;
            if (position + 1 >= _end)
            {
                position++;
                bool more = Fill(ref position, ref fieldStart);
                position--;
                if (!more)
                {
                    break;
                }
            }

            if (_buffer[position + 1] != '"')
            {
                break;
            }

            // A doubled quote stands for one: close the gap by moving the field's front forward.
            _buffer.AsSpan(fieldStart, position - fieldStart).CopyTo(_buffer.AsSpan(fieldStart + 1));
            fieldStart++;
            position += 2;
        }

        AddField(fieldStart + 1, position);
        position++;
        while (position < _end && _buffer[position] is ' ')
        {
            position++;
        }

        if (position < _end && _buffer[position] != delimiter && _buffer[position] is not ('\r' or '\n'))
        {
            int rest = _buffer.AsSpan(position, _end - position).IndexOfAny(delimiter, '\r', '\n');
            position = rest < 0 ? _end : position + rest;
        }

        return true;
    }

    private void AddField(int start, int end)
    {
        if (FieldCount == _fields.Length)
        {
            Array.Resize(ref _fields, FieldCount * 2);
        }

        _fields[FieldCount++] = (start, end - start);
    }

    /// <summary>Makes room by dropping finished rows and reads on; false at the end of the text. Keeps the row's fields valid.</summary>
    private bool Fill(ref int position, ref int fieldStart)
    {
        if (_ended || RowTooLong)
        {
            return false;
        }

        int shift = _start;
        if (shift > 0)
        {
            _buffer.AsSpan(shift, _end - shift).CopyTo(_buffer);
            _start = 0;
            _end -= shift;
            position -= shift;
            fieldStart -= shift;
            for (int i = 0; i < FieldCount; i++)
            {
                _fields[i].Start -= shift;
            }
        }

        if (_end == _buffer.Length)
        {
            if (_buffer.Length >= LongestRow)
            {
                RowTooLong = true;
                return false;
            }

            Array.Resize(ref _buffer, _buffer.Length * 2);
        }

        int read = text.Read(_buffer, _end, _buffer.Length - _end);
        _end += read;
        _ended = read == 0;
        return read > 0;
    }
}

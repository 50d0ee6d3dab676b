namespace Remedos.Core.Logs;

/// <summary>
/// Some rows, copied out of the scanner so that columns can be read one after the other: that keeps each column's numbers together,
/// and lets two processors share a wide log.
/// </summary>
internal sealed class RowBlock(int columns)
{
    public const int Rows = 128;

    private readonly (int Start, int Length)[] _fields = new (int, int)[Rows * columns];
    private readonly long[] _lines = new long[Rows];
    private char[] _text = new char[1 << 14];
    private int _used;

    public int Count { get; private set; }

    public int LettersPerRow => Count == 0 ? 0 : _used / Count;

    public bool IsFull => Count == Rows;

    public long Line(int row) => _lines[row];

    public ReadOnlySpan<char> Field(int row, int column) =>
        _fields[(row * columns) + column] is var (start, length) ? _text.AsSpan(start, length) : default;

    public void Add(RowScanner scanner)
    {
        ReadOnlySpan<char> row = scanner.Row(_fields.AsSpan(Count * columns, columns), _used);
        if (_used + row.Length > _text.Length)
        {
            Array.Resize(ref _text, Math.Max(_text.Length * 2, _used + row.Length));
        }

        row.CopyTo(_text.AsSpan(_used));
        _used += row.Length;
        _lines[Count++] = scanner.Line;
    }

    public void Clear() => (Count, _used) = (0, 0);
}

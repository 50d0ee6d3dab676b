namespace Remedos.Core.Logs;

/// <summary>A growing array; a struct so that a hundred columns cost a hundred arrays and nothing more.</summary>
internal struct SampleBuffer<T>()
{
    private T[] _items = new T[256];
    private int _count;

    public void Add(T item)
    {
        if (_count == _items.Length)
        {
            Array.Resize(ref _items, _count + (_count / 2));
        }

        _items[_count++] = item;
    }

    public void Reserve(int count)
    {
        if (count > _items.Length)
        {
            Array.Resize(ref _items, count);
        }
    }

    /// <summary>Appends so many items and hands them over to be filled.</summary>
    public Span<T> Next(int count)
    {
        if (_count + count > _items.Length)
        {
            Array.Resize(ref _items, Math.Max(_count + count, _count + (_count / 2)));
        }

        _count += count;
        return _items.AsSpan(_count - count, count);
    }

    /// <summary>Drops items that are not to be kept; so many stand behind them.</summary>
    public void KeepOfLast(int behind, ReadOnlySpan<bool> keep)
    {
        int first = _count - behind - keep.Length,
            kept = first;
        for (int i = first; i < _count; i++)
        {
            if (i - first >= keep.Length || keep[i - first])
            {
                _items[kept++] = _items[i];
            }
        }

        _count = kept;
    }

    /// <summary>The samples; the buffer is spent afterwards.</summary>
    public T[] ToArray()
    {
        Array.Resize(ref _items, _count);
        return _items;
    }
}

/// <summary>Reads a head that was already taken from a stream, then the rest of it, and counts the bytes.</summary>
internal sealed class CountingStream(Stream head, Stream rest) : Stream
{
    public long Count { get; private set; }

    public override bool CanRead => true;

    public override bool CanSeek => false;

    public override bool CanWrite => false;

    public override long Length => throw new NotSupportedException();

    public override long Position
    {
        get => Count;
        set => throw new NotSupportedException();
    }

    public override int Read(byte[] buffer, int offset, int count) => Read(buffer.AsSpan(offset, count));

    public override int Read(Span<byte> buffer)
    {
        int read = head.Read(buffer);
        read = read > 0 ? read : rest.Read(buffer);
        Count += read;
        return read;
    }

    public override void Flush() { }

    public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

    public override void SetLength(long value) => throw new NotSupportedException();

    public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();
}

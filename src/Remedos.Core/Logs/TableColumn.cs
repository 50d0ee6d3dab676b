using System.Globalization;

namespace Remedos.Core.Logs;

/// <summary>One column while it fills.</summary>
internal sealed class TableColumn
{
    private readonly ChannelName _name;
    private readonly ChannelUnit _unit;
    private SampleBuffer<float> _values = new();
    private int _unreadable,
        _present;

    private readonly double _confidence;

    public TableColumn(int index, ChannelName name, bool isTime, List<double> first, ChannelRole? said)
    {
        Index = index;
        _name = name;
        (Role, _unit, _confidence) = isTime ? new RoleGuessed(ChannelRole.Time, ChannelUnit.None, 1) : RoleGuess.Of(name, first);
        if (said is { } role and not ChannelRole.Time && !isTime)
        {
            (Role, _unit, _confidence) = (role, _unit.Canonical == "" && role.Unit() is { } usual ? usual : _unit, 1);
        }
    }

    public int Index { get; }

    public ChannelRole Role { get; }

    /// <summary>
    /// What it is taken for; its first values in the canonical unit, or as they are written where they are no numbers.
    /// </summary>
    public LogColumn Guessed(IReadOnlyList<double> numbers, IReadOnlyList<string> cells) =>
        new(
            Index,
            _name.Source,
            Role,
            _unit.Canonical,
            _confidence,
            Role == ChannelRole.Time || numbers.Count == 0
                ? cells
                : [.. numbers.Select(value => ((value * _unit.Scale) + _unit.Offset).ToString("0.##", CultureInfo.InvariantCulture))]
        );

    /// <summary>Appends the block's cells, and notes which rows hold a reading.</summary>
    public void Read(RowBlock block, char decimalSign, bool[] read)
    {
        if (Role == ChannelRole.Time)
        {
            return;
        }

        Span<float> values = _values.Next(block.Count);
        // Counted here and added at the end: processors that write neighbouring memory wait for each other.
        int present = 0,
            unreadable = 0;
        for (int row = 0; row < values.Length; row++)
        {
            ReadOnlySpan<char> cell = block.Field(row, Index);
            if (NumberText.TryRead(cell, decimalSign, out double value))
            {
                values[row] = (float)((value * _unit.Scale) + _unit.Offset);
            }
            else if (NumberText.TryFlag(cell, out value))
            {
                values[row] = (float)value;
            }
            else
            {
                unreadable += NumberText.IsMissing(cell) ? 0 : 1;
                values[row] = float.NaN;
                continue;
            }

            present++;
            if (!read[row])
            {
                read[row] = true;
            }
        }

        (_present, _unreadable) = (_present + present, _unreadable + unreadable);
    }

    public void Reserve(int rows)
    {
        if (Role != ChannelRole.Time)
        {
            _values.Reserve(rows);
        }
    }

    /// <summary>Drops rows of the last block that turned out to hold no reading at all.</summary>
    public void KeepOfLast(ReadOnlySpan<bool> keep)
    {
        if (Role != ChannelRole.Time)
        {
            _values.KeepOfLast(0, keep);
        }
    }

    public Channel Finish(int rows)
    {
        if (Role == ChannelRole.Time)
        {
            return new Channel(Index, _name.Source, Role, "", [], rows, 0, null);
        }

        float[] values = _values.ToArray();
        int rejected = Rejection.Apply(values, Role, _unit.Canonical);
        double sum = 0;
        int samples = 0;
        foreach (float value in values)
        {
            if (!float.IsNaN(value))
            {
                sum += value;
                samples++;
            }
        }

        // A column of words (a sensor's name, a note) has no samples to reject.
        return new Channel(
            Index,
            _name.Source,
            Role,
            _unit.Canonical,
            values,
            samples,
            _present == 0 ? 0 : rejected + _unreadable,
            samples == 0 ? null : sum / samples,
            _confidence
        );
    }
}

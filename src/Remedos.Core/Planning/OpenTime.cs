namespace Remedos.Core.Planning;

/// <summary>A stretch of time, in minutes from the moment of the plan.</summary>
public readonly record struct Span(double From, double To);

/// <summary>
/// The time in which there is work, as spans that follow each other. Minutes count from the moment of the plan; the last span is taken to
/// go on for ever, so that whatever is asked has an answer: nothing that stands there is shown.
/// </summary>
public sealed class OpenTime
{
    private readonly double[] _from,
        _to,
        _before;

    /// <summary>Made of spans.</summary>
    /// <param name="spans">Without overlaps, in order, each longer than nothing.</param>
    /// <exception cref="ArgumentException">They are not, or there is none.</exception>
    public OpenTime(IReadOnlyList<Span> spans)
    {
        if (spans.Count == 0)
        {
            throw new ArgumentException("There is no open time.", nameof(spans));
        }

        (_from, _to, _before) = (new double[spans.Count], new double[spans.Count], new double[spans.Count]);
        for (int i = 0; i < spans.Count; i++)
        {
            if (!(spans[i].From < spans[i].To) || (i > 0 && spans[i].From < spans[i - 1].To))
            {
                throw new ArgumentException("Open spans follow each other.", nameof(spans));
            }

            (_from[i], _to[i]) = (spans[i].From, spans[i].To);
            _before[i] = i == 0 ? 0 : _before[i - 1] + _to[i - 1] - _from[i - 1];
        }

        Longest = spans.Max(span => span.To - span.From);
        End = spans[^1].To;
        _to[^1] = double.PositiveInfinity;
    }

    /// <summary>The longest span, min.</summary>
    public double Longest { get; }

    /// <summary>Where the last span ends in truth: what lies behind it was not planned.</summary>
    public double End { get; }

    /// <summary>The first moment from one on that is open.</summary>
    public double Next(double at)
    {
        int span = SpanAt(at);
        return Math.Max(at, _from[span]);
    }

    /// <summary>When so many open minutes have passed from a moment on.</summary>
    public double After(double at, double minutes)
    {
        int span = SpanAt(at);
        at = Math.Max(at, _from[span]);
        while (at + minutes > _to[span])
        {
            minutes -= _to[span] - at;
            at = _from[++span];
        }

        return at + minutes;
    }

    /// <summary>
    /// The first moment from one on at which so many minutes begin that closing does not interrupt; the next open moment where no span is
    /// as long.
    /// </summary>
    public double NextUnbroken(double at, double minutes)
    {
        int span = SpanAt(at);
        at = Math.Max(at, _from[span]);
        if (minutes > Longest)
        {
            return at;
        }

        while (at + minutes > _to[span])
        {
            at = _from[++span];
        }

        return at;
    }

    /// <summary>Open minutes from the beginning up to a moment.</summary>
    public double OpenUntil(double at)
    {
        int span = SpanAt(at);
        return _before[span] + Math.Max(0, at - _from[span]);
    }

    /// <summary>The span that a moment lies in, or the next one; behind all others the last.</summary>
    private int SpanAt(double at) => FirstOver(_to.AsSpan(0, _to.Length - 1), at);

    /// <summary>The first of some ends in order that lies behind a moment; their number where none does.</summary>
    internal static int FirstOver(ReadOnlySpan<double> ends, double at)
    {
        int low = 0,
            high = ends.Length;
        while (low < high)
        {
            int middle = (low + high) / 2;
            if (ends[middle] > at)
            {
                high = middle;
            }
            else
            {
                low = middle + 1;
            }
        }

        return low;
    }
}

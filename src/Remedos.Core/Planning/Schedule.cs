namespace Remedos.Core.Planning;

/// <summary>
/// Puts pieces into time, each as early as what stands already allows. Made once for a request; an order in, a plan out. Not to be used by
/// two at once.
/// </summary>
internal sealed class Schedule
{
    private const double Always = double.PositiveInfinity;

    private readonly PlanRequest _request;
    private readonly OpenTime _open;
    private readonly OpenTime?[] _here;
    private readonly Busy[] _hands,
        _bays;

    /// <summary>Of each job: its pieces, whose it is (−1 for anybody's), and when it is promised in open minutes.</summary>
    private readonly WorkPiece[][] _pieces;
    private readonly int[] _owner,
        _next,
        _last;
    private readonly double[] _ready,
        _due;

    public Schedule(PlanRequest request)
    {
        _request = request;
        _open = new OpenTime(request.Open);
        _here = [.. request.Hands.Select(hand => hand.Here.Count == 0 ? null : new OpenTime(hand.Here))];
        _hands = [.. request.Hands.Select(_ => new Busy())];
        _bays = [.. request.Bays.Select(_ => new Busy())];
        Dictionary<string, int> names = request.Hands.Select((hand, i) => (hand.Id, i)).ToDictionary(one => one.Id, one => one.i);
        _pieces = [.. request.Jobs.Select(job => job.Pieces.ToArray())];
        // Whoever is not here at all cannot keep a machine waiting for ever.
        _owner =
        [
            .. request.Jobs.Select(job => job.Hand is { } hand && names.TryGetValue(hand, out int i) && _here[i] is not null ? i : -1),
        ];
        _due = [.. request.Jobs.Select(job => job.Due is { } due ? _open.OpenUntil(due) : Always)];
        _next = new int[request.Jobs.Count];
        _last = new int[request.Jobs.Count];
        _ready = new double[request.Jobs.Count];
        Names = names;
    }

    public IReadOnlyDictionary<string, int> Names { get; }

    public OpenTime Open => _open;

    public int Jobs => _pieces.Length;

    public int PiecesOf(int job) => _pieces[job].Length;

    /// <summary>Whether any hand is here at all.</summary>
    public bool HasHands => Array.Exists(_here, here => here is not null);

    /// <summary>When a job is promised, open minutes; infinite for not at all.</summary>
    public double DueOf(int job) => _due[job];

    /// <summary>When what is placed of a job is over, min from now.</summary>
    public double ReadyAt(int job) => _ready[job];

    /// <summary>Pieces of a job that are placed.</summary>
    public int Placed(int job) => _next[job];

    /// <summary>The piece of a job that is placed next.</summary>
    public WorkPiece NextOf(int job) => _pieces[job][_next[job]];

    /// <summary>Begins anew: nothing is placed but what goes on at this moment.</summary>
    /// <param name="take">What a piece takes in place of what is planned; null for as planned.</param>
    /// <param name="blocks">Where what goes on is written to; null for nowhere.</param>
    public void Reset(Func<int, int, WorkPiece>? take = null, List<PlanBlock>? blocks = null)
    {
        foreach (Busy busy in _hands)
        {
            busy.Clear();
        }

        for (int bay = 0; bay < _bays.Length; bay++)
        {
            _bays[bay].Clear();
            foreach (Span span in _request.Bays[bay].Out)
            {
                _bays[bay].Add(span.From, span.To);
            }
        }

        for (int job = 0; job < Jobs; job++)
        {
            PlanJob its = _request.Jobs[job];
            (_next[job], _last[job], _ready[job]) = (0, -1, its.RunsIn is null ? its.NotBefore : 0);
            if (take is not null)
            {
                for (int piece = 0; piece < its.Pieces.Count; piece++)
                {
                    _pieces[job][piece] = take(job, piece);
                }
            }
        }

        for (int job = 0; job < Jobs; job++)
        {
            PlanJob its = _request.Jobs[job];
            if (its.RunsIn is { } number && _pieces[job] is [{ HandsMinutes: <= 0 }, ..])
            {
                int bay = IndexOf(number);
                double end = _pieces[job][0].AloneMinutes;
                if (bay >= 0)
                {
                    _bays[bay].Add(0, end);
                }

                (_next[job], _ready[job]) = (1, Math.Max(its.NotBefore, end));
                blocks?.Add(new PlanBlock(its.Id, 0, null, number, 0, 0, end, 0, 0));
            }
            else if (
                its.UnderHandsOf is { } hand
                && Names.TryGetValue(hand, out int who)
                && _here[who] is { } here
                && here.Next(0) == 0
                && _hands[who].IsEmpty
                && _pieces[job] is [{ Bay: false } first, ..]
            )
            {
                double to = here.After(0, first.HandsMinutes);
                _hands[who].Add(0, to);
                (_next[job], _last[job], _ready[job]) = (1, who, to + first.AloneMinutes);
                blocks?.Add(new PlanBlock(its.Id, 0, hand, null, 0, to, to + first.AloneMinutes, 0, 0));
            }
        }
    }

    /// <summary>When the next piece of a job could begin, as things stand.</summary>
    public double EarliestOf(int job) => Find(job, out _, out _, out _);

    /// <summary>Places the next piece of a job.</summary>
    /// <param name="blocks">Where it is written to; null for nowhere.</param>
    public void Place(int job, List<PlanBlock>? blocks)
    {
        WorkPiece piece = _pieces[job][_next[job]];
        double from = Find(job, out int hand, out int bay, out double handsTo),
            to = handsTo + piece.AloneMinutes;
        if (blocks is not null)
        {
            double could = Unhindered(job, piece),
                free = bay < 0 ? could : BayFreeFrom(piece, could),
                waited = Math.Max(0, _open.OpenUntil(from) - _open.OpenUntil(could)),
                forBay = Math.Clamp(_open.OpenUntil(free) - _open.OpenUntil(could), 0, waited);
            blocks.Add(
                new PlanBlock(
                    _request.Jobs[job].Id,
                    _next[job],
                    hand < 0 ? null : _request.Hands[hand].Id,
                    bay < 0 ? null : _request.Bays[bay].Number,
                    from,
                    handsTo,
                    to,
                    waited - forBay,
                    forBay
                )
            );
        }

        if (hand >= 0)
        {
            _hands[hand].Add(from, handsTo);
            _last[job] = hand;
        }

        if (bay >= 0)
        {
            // A machine that waits for a hand in its bay keeps it.
            _bays[bay].Add(StandsIn(job) == bay ? 0 : from, to);
        }

        _next[job]++;
        _ready[job] = Math.Max(to, _request.Jobs[job].NotBefore);
    }

    /// <summary>Where the next piece of a job goes; the first hand and bay that have it done soonest.</summary>
    private double Find(int job, out int hand, out int bay, out double handsTo)
    {
        WorkPiece piece = _pieces[job][_next[job]];
        (hand, bay) = (-1, -1);
        double ready = _ready[job];
        if (piece.HandsMinutes <= 0)
        {
            handsTo = ready;
            return ready;
        }

        double best = Always,
            bestTo = Always;
        for (int who = 0; who < _hands.Length; who++)
        {
            if (_here[who] is not { } here || (_owner[job] >= 0 && _owner[job] != who))
            {
                continue;
            }

            int at = -1;
            double from = piece.Bay
                ? WithBay(who, here, piece, ready, StandsIn(job), out at)
                : _hands[who].FirstGap(here, ready, piece.HandsMinutes);
            double to = here.After(from, piece.HandsMinutes);
            // Whoever has begun with a machine goes on with it.
            if (to < bestTo || (to == bestTo && who == _last[job]))
            {
                (best, bestTo, hand, bay) = (from, to, who, at);
            }
        }

        handsTo = bestTo;
        return best;
    }

    /// <summary>The first moment at which a hand, a bay and the open hours hold a run.</summary>
    /// <param name="only">The bay in which it stands already; −1 for any.</param>
    private double WithBay(int who, OpenTime here, WorkPiece piece, double ready, int only, out int bay)
    {
        double all = piece.HandsMinutes + piece.AloneMinutes,
            at = ready;
        while (true)
        {
            at = _open.NextUnbroken(at, all);
            double hands = _hands[who].FirstGap(here, at, piece.HandsMinutes);
            if (hands > at)
            {
                at = hands;
                if (_open.NextUnbroken(at, all) > at)
                {
                    continue;
                }
            }

            double soonest = _bays.Length == 0 ? at : Always;
            bay = -1;
            for (int i = 0; i < _bays.Length; i++)
            {
                double free = only >= 0 && only != i ? Always : _bays[i].FirstFree(at, all);
                if (free < soonest)
                {
                    (soonest, bay) = (free, i);
                }
            }

            if (soonest <= at)
            {
                return at;
            }

            at = soonest;
        }
    }

    /// <summary>When a piece could begin if all hands and bays were free.</summary>
    private double Unhindered(int job, WorkPiece piece)
    {
        if (piece.HandsMinutes <= 0)
        {
            return _ready[job];
        }

        double first = Always;
        for (int who = 0; who < _here.Length; who++)
        {
            if (_here[who] is { } here && (_owner[job] < 0 || _owner[job] == who))
            {
                double at = here.NextUnbroken(_ready[job], piece.HandsMinutes);
                first = Math.Min(first, piece.Bay ? _open.NextUnbroken(at, piece.HandsMinutes + piece.AloneMinutes) : at);
            }
        }

        return first;
    }

    private double BayFreeFrom(WorkPiece piece, double at) => _bays.Min(bay => bay.FirstFree(at, piece.HandsMinutes + piece.AloneMinutes));

    /// <summary>The bay in which a job's next piece stands already; −1 for none.</summary>
    private int StandsIn(int job) => _next[job] == 0 && _request.Jobs[job].RunsIn is { } number ? IndexOf(number) : -1;

    private int IndexOf(int number)
    {
        for (int i = 0; i < _request.Bays.Count; i++)
        {
            if (_request.Bays[i].Number == number)
            {
                return i;
            }
        }

        return -1;
    }
}

/// <summary>When a hand or a bay is taken, in order.</summary>
internal sealed class Busy
{
    private double[] _from = new double[16],
        _to = new double[16];
    private int _count;

    public bool IsEmpty => _count == 0;

    public void Clear() => _count = 0;

    public void Add(double from, double to)
    {
        if (_count == _from.Length)
        {
            Array.Resize(ref _from, 2 * _count);
            Array.Resize(ref _to, 2 * _count);
        }

        // A run that goes on in a bay that was taken out of use: one stretch, so that both ends stay in order.
        for (int i = _count - 1; i >= 0; i--)
        {
            if (_from[i] < to && from < _to[i])
            {
                (from, to) = (Math.Min(from, _from[i]), Math.Max(to, _to[i]));
                _count--;
                Array.Copy(_from, i + 1, _from, i, _count - i);
                Array.Copy(_to, i + 1, _to, i, _count - i);
            }
        }

        int at = _count++;
        for (; at > 0 && _from[at - 1] > from; at--)
        {
            (_from[at], _to[at]) = (_from[at - 1], _to[at - 1]);
        }

        (_from[at], _to[at]) = (from, to);
    }

    /// <summary>The first moment from one on at which it is free for so long, whatever the hour.</summary>
    public double FirstFree(double at, double minutes)
    {
        for (int i = FirstOver(at); i < _count; i++)
        {
            if (_from[i] >= at + minutes)
            {
                return at;
            }

            at = _to[i];
        }

        return at;
    }

    /// <summary>The first moment from one on at which a hand that is here at these hours is free for so many of its minutes.</summary>
    public double FirstGap(OpenTime here, double at, double minutes)
    {
        at = here.NextUnbroken(at, minutes);
        for (int i = FirstOver(at); i < _count; i++)
        {
            if (_to[i] > at)
            {
                // Closing time only makes it longer.
                if (_from[i] >= at + minutes && _from[i] >= here.After(at, minutes))
                {
                    return at;
                }

                at = here.NextUnbroken(_to[i], minutes);
            }
        }

        return at;
    }

    /// <summary>The first that is not over at a moment: what is taken never overlaps, so that both ends stand in order.</summary>
    private int FirstOver(double at) => OpenTime.FirstOver(_to.AsSpan(0, _count), at);
}

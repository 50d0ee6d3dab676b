using Remedos.Core.Planning;

namespace Remedos.Validation;

/// <summary>How a simulated month went.</summary>
/// <param name="Machines">That came and left.</param>
/// <param name="StayHours">Mean of the open hours from intake to handover.</param>
/// <param name="LateShare">Of the promised ones.</param>
/// <param name="LateHours">Mean of open hours past the promise, of all promised ones.</param>
/// <param name="BayIdleShare">Of open bay time while a machine waited for its run.</param>
/// <param name="HandIdleShare">Of open hand time.</param>
public sealed record MonthRow(
    int Machines,
    double StayHours,
    double LateShare,
    double LateHours,
    double BayIdleShare,
    double HandIdleShare
);

/// <summary>
/// A busy workshop for four weeks: machines come, owners answer late, parts come next days, nothing takes as long as planned. The same
/// month
/// is worked twice, as machines came and by the plan, replanned whenever a hand is free.
/// </summary>
public sealed class WorkshopMonth
{
    private const double OpensAt = 9 * 60,
        ClosesAt = (17.5 * 60),
        Day = 1440;

    private const int Days = 28,
        Tail = 28;

    /// <summary>So many machines keep two hands busy for four fifths of their time.</summary>
    private const double MachinesPerDay = 8.5;

    private const int Hands = 2,
        Bays = 2;

    private const double AnswersAtOnce = 0.4,
        AnswersAfterMinutes = 180,
        NeedsPart = 0.25,
        Promised = 0.6,
        MountsCooler = 0.5;

    private readonly List<Span> _open =
    [
        .. Enumerable
            .Range(0, Days + Tail)
            .Where(day => day % 7 != 6)
            .Select(day => new Span((day * Day) + OpensAt, (day * Day) + ClosesAt)),
    ];
    private readonly OpenTime _hours;
    private readonly List<Machine> _machines = [];

    private WorkshopMonth(int seed)
    {
        _hours = new OpenTime(_open);
        Random random = new(seed);
        for (double at = OpensAt; ; )
        {
            at = _hours.After(at, -Math.Log(1 - random.NextDouble()) * (ClosesAt - OpensAt) / MachinesPerDay);
            if (at > Days * Day)
            {
                break;
            }

            _machines.Add(new Machine(_machines.Count, at, random));
        }
    }

    /// <summary>Works a month.</summary>
    /// <param name="seed">Of what comes and how long it takes.</param>
    /// <param name="byPlan">By the plan; else as machines came.</param>
    public static MonthRow Run(int seed, bool byPlan) => new WorkshopMonth(seed).Work(byPlan);

    private MonthRow Work(bool byPlan)
    {
        double[] handUntil = new double[Hands],
            bayUntil = new double[Bays],
            handExpected = new double[Hands],
            bayExpected = new double[Bays];
        double handBusy = 0,
            bayIdle = 0,
            bayWanted = 0,
            now = OpensAt;
        while (_machines.Exists(machine => !machine.IsGone) && now < (Days + Tail) * Day)
        {
            bool open = _hours.Next(now) <= now;
            bool started = true;
            while (open && started)
            {
                started = false;
                foreach (
                    (Machine machine, int hand, int bay) in byPlan
                        ? Planned(now, handUntil, handExpected, bayUntil, bayExpected)
                        : AsTheyCame(now, handUntil, bayUntil)
                )
                {
                    WorkPiece piece = machine.Pieces[0],
                        truth = machine.Truth[0];
                    double handsTo = _hours.After(now, truth.HandsMinutes),
                        to = handsTo + truth.AloneMinutes;
                    handBusy += truth.HandsMinutes;
                    handUntil[hand] = handsTo;
                    handExpected[hand] = _hours.After(now, piece.HandsMinutes);
                    if (bay >= 0)
                    {
                        bayUntil[bay] = to;
                        bayExpected[bay] = handExpected[hand] + piece.AloneMinutes;
                    }

                    machine.Did(to, handExpected[hand] + piece.AloneMinutes, _hours);
                    started = true;
                }
            }

            double next = Next(now, handUntil, bayUntil);
            bool wanted = _machines.Exists(machine => machine.IsHere(now) && machine.Pieces[0].Bay);
            if (open && wanted)
            {
                double length = _hours.OpenUntil(next) - _hours.OpenUntil(now);
                bayWanted += Bays * length;
                bayIdle += bayUntil.Count(until => until <= now) * length;
            }

            now = next;
        }

        Machine[] promised = [.. _machines.Where(machine => machine.Due is not null)];
        double[] late =
        [
            .. promised.Select(machine => Math.Max(0, _hours.OpenUntil(machine.Ready) - _hours.OpenUntil(machine.Due!.Value)) / 60),
        ];
        return new MonthRow(
            _machines.Count,
            _machines.Average(machine => _hours.OpenUntil(machine.Ready) - _hours.OpenUntil(machine.CameAt)) / 60,
            late.Count(hours => hours > 0) / (double)promised.Length,
            late.Average(),
            bayWanted == 0 ? 0 : bayIdle / bayWanted,
            1 - (handBusy / (Hands * _hours.OpenUntil(_machines.Max(machine => machine.Ready))))
        );
    }

    /// <summary>The next moment at which anything changes.</summary>
    private double Next(double now, double[] handUntil, double[] bayUntil)
    {
        double next = _hours.Next(now) > now ? _hours.Next(now) : double.PositiveInfinity;
        foreach (
            double at in handUntil.Concat(bayUntil).Concat(_machines.Where(machine => !machine.IsGone).Select(machine => machine.HereFrom))
        )
        {
            next = at > now ? Math.Min(next, at) : next;
        }

        // Closing and opening.
        double opens = _open.Where(span => span.From > now).Select(span => span.From).FirstOrDefault(double.PositiveInfinity);
        return Math.Min(next, opens);
    }

    /// <summary>Whoever is free takes the machine that has been here longest and can go on.</summary>
    private IEnumerable<(Machine Machine, int Hand, int Bay)> AsTheyCame(double now, double[] handUntil, double[] bayUntil)
    {
        int hand = Array.FindIndex(handUntil, until => until <= now),
            bay = Array.FindIndex(bayUntil, until => until <= now);
        if (hand < 0)
        {
            return [];
        }

        Machine? first = _machines.FirstOrDefault(machine => machine.IsHere(now) && CanBegin(machine.Pieces[0], now, bay >= 0));
        return first is null ? [] : [(first, hand, first.Pieces[0].Bay ? bay : -1)];
    }

    private bool CanBegin(WorkPiece piece, double now, bool bay) =>
        _hours.NextUnbroken(now, piece.HandsMinutes + (piece.Bay ? piece.AloneMinutes : 0)) <= now && (!piece.Bay || bay);

    private List<(Machine Machine, int Hand, int Bay)> Planned(
        double now,
        double[] handUntil,
        double[] handExpected,
        double[] bayUntil,
        double[] bayExpected
    )
    {
        Machine[] here = [.. _machines.Where(machine => machine.IsPlanned(now))];
        if (!handUntil.Any(until => until <= now) || !here.Any(machine => machine.IsHere(now)))
        {
            return [];
        }

        // What should be over and is not will be in a few minutes, as far as anybody knows.
        double Left(double until, double expected) => until <= now ? 0 : Math.Max(3, expected - now);
        Span[] open = [.. _open.Where(span => span.To > now).Select(span => new Span(Math.Max(0, span.From - now), span.To - now))];
        PlanRequest request = new(
            open,
            [
                .. handUntil.Select(
                    (until, i) =>
                    {
                        double free = Left(until, handExpected[i]);
                        return new PlanHand(
                            $"{i}",
                            [.. open.Where(span => span.To > free).Select(span => span with { From = Math.Max(span.From, free) })]
                        );
                    }
                ),
            ],
            [.. bayUntil.Select((until, i) => new PlanBay(i + 1, until > now ? [new Span(0, Left(until, bayExpected[i]))] : []))],
            [
                .. here.Select(machine => new PlanJob(
                    $"{machine.Number}",
                    machine.Pieces,
                    machine.IsHere(now) ? 0 : Left(machine.HereFrom, machine.ExpectedFrom),
                    machine.Due - now
                )),
            ]
        );
        DayPlan plan = DayPlanner.Plan(request);
        foreach (MachinePlan one in plan.Machines.Where(one => one.LeftOut.Count > 0))
        {
            _machines[int.Parse(one.Job, System.Globalization.CultureInfo.InvariantCulture)].LeaveOut();
        }

        return
        [
            .. plan
                .Blocks.Where(block => block is { From: <= 0, Hand: not null })
                .Select(block =>
                    (
                        _machines[int.Parse(block.Job, System.Globalization.CultureInfo.InvariantCulture)],
                        int.Parse(block.Hand!, System.Globalization.CultureInfo.InvariantCulture),
                        (block.Bay ?? 0) - 1
                    )
                )
                .Where(one => handUntil[one.Item2] <= now && one.Item1.IsHere(now) && (one.Item3 < 0 || bayUntil[one.Item3] <= now)),
        ];
    }

    /// <summary>A machine on its way through the workshop.</summary>
    private sealed class Machine
    {
        private readonly double _answersAfter,
            _partComes;

        public Machine(int number, double cameAt, Random random)
        {
            (Number, CameAt, HereFrom, ExpectedFrom) = (number, cameAt, cameAt, cameAt);
            Due = random.NextDouble() < Promised ? ((Math.Floor(cameAt / Day) + random.Next(1, 4)) * Day) + ClosesAt : null;
            _answersAfter = random.NextDouble() < AnswersAtOnce ? 0 : -Math.Log(1 - random.NextDouble()) * AnswersAfterMinutes;
            _partComes = random.NextDouble() < NeedsPart ? random.Next(1, 3) * Day : 0;
            double repair = 20 + (60 * random.NextDouble());
            bool mounts = random.NextDouble() < MountsCooler;
            Pieces =
            [
                new(WorkKind.Intake, "intake", 3),
                new(WorkKind.Look, "look", 5),
                WorkPiece.Run("before"),
                new(WorkKind.Check, "find", 10),
                new(WorkKind.Decide, "ask", 5),
                new(WorkKind.Repair, "repair", repair),
                WorkPiece.Run("after"),
                .. mounts
                    ? new[] { new WorkPiece(WorkKind.Settle, "settle", 0, 1410, Extra: true), WorkPiece.Run("once more", extra: true) }
                    : [],
            ];
            Truth = [.. Pieces.Select(piece => Spread.Prior(piece.Kind).Of(piece, DrawnMachine.Normal(random)))];
        }

        public int Number { get; }

        public double CameAt { get; }

        /// <summary>When it is promised; null for not at all.</summary>
        public double? Due { get; }

        public List<WorkPiece> Pieces { get; }

        public List<WorkPiece> Truth { get; }

        /// <summary>When its next piece can begin; when that was expected.</summary>
        public double HereFrom { get; private set; }

        public double ExpectedFrom { get; private set; }

        public double Ready { get; private set; }

        public bool IsGone => Pieces.Count == 0;

        /// <summary>Whether anybody knows when it goes on: an owner who has not answered is not planned.</summary>
        private double _knownFrom;

        public bool IsHere(double now) => !IsGone && HereFrom <= now;

        public bool IsPlanned(double now) => !IsGone && CameAt <= now && _knownFrom <= now;

        /// <summary>Its next piece ends at a moment, and was expected to at another.</summary>
        public void Did(double to, double expected, OpenTime hours)
        {
            WorkPiece did = Pieces[0];
            Pieces.RemoveAt(0);
            Truth.RemoveAt(0);
            (HereFrom, ExpectedFrom, Ready) = (to, expected, to);
            if (did.Kind == WorkKind.Decide)
            {
                // The answer, then the part: at noon of the day on which it comes.
                double answered = _answersAfter == 0 ? to : hours.After(to, _answersAfter);
                _knownFrom = answered;
                HereFrom = ExpectedFrom = _partComes == 0 ? answered : (Math.Floor(answered / Day) * Day) + _partComes + 720;
            }
            else if (Pieces is [{ Kind: WorkKind.Settle } settles, ..])
            {
                Pieces.RemoveAt(0);
                Truth.RemoveAt(0);
                (HereFrom, ExpectedFrom) = (to + settles.AloneMinutes, expected + settles.AloneMinutes);
                _settlesFrom = (to, expected);
            }
        }

        private (double To, double Expected)? _settlesFrom;

        /// <summary>Goes without another run.</summary>
        public void LeaveOut()
        {
            Truth.RemoveAll(piece => piece.Extra);
            Pieces.RemoveAll(piece => piece.Extra);
            if (_settlesFrom is { } from)
            {
                (HereFrom, ExpectedFrom, _settlesFrom) = (from.To, from.Expected, null);
            }
        }
    }
}

using Remedos.Core.Logs;
using Remedos.Core.Machines;
using Remedos.Core.Simulation;

namespace Remedos.Core.Bays;

/// <summary>
/// An invented machine in a bay with hands about it: it obeys orders, and hands may take its panel off, lift its cooler, mount another,
/// carry it to another room and
/// hold instruments to it. What hands undo is undone: a cooler that was lifted gets new paste.
/// </summary>
public sealed class SimulatedBay
{
    private const int TicksPerSecond = 10;

    /// <summary>A hand-held contact thermometer is good to this much, °C.</summary>
    private const double ContactC = 0.4;

    /// <summary>What the owner's program asks of the processor and, where there is one, of the graphics card.</summary>
    private const double ProgramLoad = 0.75,
        ProgramGraphicsLoad = 0.4;

    private const string HotRoom = "room-hot";

    private readonly MachineRow _row;
    private readonly Random _hand;
    private readonly Queue<string> _notes = new();
    private readonly int _seed;
    private Dictionary<string, double> _faults;
    private BenchMachine _machine;
    private MachineOnBench _bench;
    private BenchOrder _order = new(0);
    private BenchHands _hands = BenchHands.AtFirst;
    private double _began,
        _loadSince;
    private long _sequence;
    private int _mounts;

    /// <summary>Puts a machine into the bay.</summary>
    /// <param name="row">A machine of the library.</param>
    /// <param name="faults">Severities 0 … 1 by id.</param>
    public SimulatedBay(MachineRow row, IReadOnlyDictionary<string, double> faults, int seed)
    {
        (_row, _faults, _seed, _hand) = (row, new(faults), seed, new Random(seed));
        _machine = MachineLibrary.Resolve(row, out string? problem) ?? throw new ArgumentException(problem, nameof(row));
        _bench = new MachineOnBench(_machine, _faults, _machine.RoomC, seed);
    }

    /// <summary>Puts a machine into the bay on which hands have worked before.</summary>
    public SimulatedBay(MachineRow row, IReadOnlyDictionary<string, double> faults, int seed, BenchHands? hands)
        : this(row, faults, seed)
    {
        Obey(_order, hands);
        _notes.Clear();
    }

    /// <summary>What it says when it signs on.</summary>
    public BayHello Hello => new(_machine.Name, BayHello.AllObeys, [], Simulated: true);

    /// <summary>Its clock, s.</summary>
    public double Seconds => _began + _bench.Seconds;

    private bool IsOff => _hands.Cooler == BenchHands.Lifted;

    /// <summary>What the machine's hands have seen since it was last asked.</summary>
    public IEnumerable<string> TakeNotes()
    {
        while (_notes.TryDequeue(out string? note))
        {
            yield return note;
        }
    }

    /// <summary>Does what it is told; null hands leave theirs as they are.</summary>
    public void Obey(BenchOrder order, BenchHands? hands)
    {
        _loadSince = order.Load > 0 && _order.Load == 0 ? Seconds : _loadSince;
        _order = order;
        if (hands is not null && hands != _hands)
        {
            BenchHands before = _hands;
            _hands = hands;
            if (hands.Cooler != before.Cooler)
            {
                Handle(hands.Cooler);
            }

            if (hands.RoomC != before.RoomC)
            {
                _bench.MoveTo(hands.RoomC ?? (_machine.RoomC + FaultEffects.Of(_faults).RoomAddC));
            }
        }
    }

    /// <summary>Lives for a second and reads the sensors; a machine that is off has only what is held to it.</summary>
    public BayReading Second()
    {
        double load = IsOff
            ? 0
            : Math.Max(_order.Load * LoadKind.DutyAt(_order.Work, Seconds - _loadSince), _hands.Program ? ProgramLoad : 0);
        _bench.Settings = new BenchSettings(
            load,
            _hands.Program && !IsOff ? ProgramGraphicsLoad : 0,
            _order.FanRpm is { } rpm && _machine.Cooler.FullRpm > 0
                ? Math.Min(100, 100 * rpm / _machine.Cooler.FullRpm)
                : _order.FanPercent,
            _order.PowerCapW,
            _order.PanelOff || _hands.PanelOff,
            _order.PumpFull
        );
        for (int tick = 0; tick < TicksPerSecond; tick++)
        {
            _bench.Tick();
        }

        BenchReading reading = _bench.Read();
        Dictionary<BayChannel, double> values = new(
            reading.ToReading(0, 0, _machine.Shows.Contains("case-air"), _machine.Shows.Contains("case-fan")).Values
        );
        if (IsOff)
        {
            values = values.Where(pair => pair.Key.Role == ChannelRole.AmbientTemperature).ToDictionary();
        }

        Held(BenchHands.RoomThermometer, ChannelRole.AmbientTemperature);
        Held(BenchHands.SoundMeter, ChannelRole.SoundLevel);
        if (!IsOff && _machine.Cooler.IsLiquid && _hands.Holds(BenchHands.ContactThermometer))
        {
            values.TryAdd(new(ChannelRole.TubeOutTemperature), Contact(_bench.FinsC + _bench.HalfTubeDifferenceC));
            values.TryAdd(new(ChannelRole.TubeReturnTemperature), Contact(_bench.FinsC - _bench.HalfTubeDifferenceC));
        }

        return new BayReading(++_sequence, Math.Round(Seconds, 1), values);

        void Held(string instrument, ChannelRole role)
        {
            if (!_hands.Holds(instrument))
            {
                values.Remove(new(role));
            }
        }
    }

    /// <summary>Hands have mended something: the machine was switched off for it, and is at rest again.</summary>
    /// <param name="causes">What is gone; what was never there is passed over.</param>
    public void Mend(IReadOnlyList<string> causes)
    {
        if (causes.Any(_faults.ContainsKey))
        {
            _faults = _faults.Where(fault => !causes.Contains(fault.Key)).ToDictionary();
            Restart();
        }
    }

    private void Restart()
    {
        _began = Seconds;
        // What goes with its own cooler lies beside the machine while another one is on it, and a hot place stays behind.
        IEnumerable<KeyValuePair<string, double>> here = _faults.Where(one =>
            !(IsOther && FaultEffects.OfTheCooler.Contains(one.Key)) && !(_hands.RoomC is not null && one.Key == HotRoom)
        );
        _bench = new MachineOnBench(_machine, here, _hands.RoomC ?? _machine.RoomC, _seed + ++_mounts);
    }

    private bool IsOther => _hands.Cooler is not (null or BenchHands.Lifted);

    private double Contact(double value) => Math.Round(value + (ContactC * ((2 * _hand.NextDouble()) - 1)), 1);

    private void Handle(string? after)
    {
        if (after == BenchHands.Lifted)
        {
            _notes.Enqueue($"Switched off and the cooler lifted. {Print}");
            return;
        }

        TrueCooler? cooler = after is null ? null : MachineLibrary.Coolers.FirstOrDefault(one => one.Id == after);
        if (after is not null && cooler is null)
        {
            _notes.Enqueue($"There is no cooler “{after}” on this bench.");
            return;
        }

        string? radiator =
            cooler is null ? _row.Radiator
            : cooler.Part.IsLiquid ? _row.Radiator ?? "top-out"
            : null;
        if (
            MachineLibrary.Resolve(_row with { Cooler = cooler?.Id ?? _row.Cooler, Radiator = radiator }, out string? problem)
            is not { } machine
        )
        {
            _notes.Enqueue($"It cannot be mounted: {problem}");
            return;
        }

        _faults = _faults.Where(fault => !FaultEffects.OfTheMount.Contains(fault.Key)).ToDictionary();
        _machine = machine;
        Restart();
        _notes.Enqueue(cooler is not null ? $"{cooler.Part.Name} mounted with new paste." : "Its own cooler mounted again with new paste.");
    }

    /// <summary>What the paste looks like when the cooler comes off.</summary>
    private string Print =>
        _faults.GetValueOrDefault("poor-contact") > 0.1 ? "The paste shows a ring only: it sat on one side."
        : _faults.GetValueOrDefault("paste-aged") > 0.1 ? "The paste is dry and crumbles."
        : "The paste print is full and even.";
}

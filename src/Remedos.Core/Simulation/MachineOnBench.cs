using Remedos.Core.Machines;
using Remedos.Core.Physics;
using Remedos.Core.SteadyState;

namespace Remedos.Core.Simulation;

/// <summary>The speeds and settings that a machine's resistances depend on.</summary>
/// <param name="CoolerFan">Share of full speed, 0 … 1.</param>
/// <param name="CaseFans">Share of full speed, 0 … 1.</param>
/// <param name="GraphicsFan">Share of full speed, 0 … 1.</param>
internal readonly record struct OperatingPoint(double CoolerFan, double CaseFans, double GraphicsFan, bool PanelOff, bool PumpFull);

/// <summary>
/// A machine under test: its heat, its controllers (boost budget, throttle, fan steering, leakage) and its sensors, advanced in ticks of
/// 0.1 s.
/// The same settings at the same ticks with the same seed give the same readings.
/// </summary>
public sealed class MachineOnBench
{
    /// <summary>How long a tick is, s.</summary>
    public const double TickSeconds = 0.1;

    private const int TicksPerSecond = 10;

    /// <summary>Fans are told apart by this step of their speed, so that few networks serve a whole run.</summary>
    private const double SpeedStep = 0.01;

    /// <summary>Leakage is what the library says at this temperature of the die.</summary>
    private const double LeakageAtC = 60;

    private const double LowestThrottle = 0.25,
        ClockAtIdle = 0.42;

    private readonly BenchMachine _machine;
    private readonly FaultEffects _faults;
    private readonly HeatPaths _paths;
    private readonly Random _random;
    private readonly Dictionary<OperatingPoint, HeatNetwork> _networks = [];
    private readonly double _fastestCaseFan;
    private readonly double[] _rises,
        _heat;
    private double _roomC;
    private HeatNetwork _at;
    private OperatingPoint _point;
    private BenchSettings _settings = new();
    private double _coolerFan,
        _caseFans,
        _graphicsFan,
        _throttle = 1,
        _boostLeft,
        _fluctuation,
        _burst,
        _throttledFor,
        _sensorC,
        _wander;
    private double _powerSum,
        _clockSum,
        _loadSum,
        _powerNow,
        _clockNow,
        _graphicsNow,
        _roomNow,
        _share = 1,
        _rootOfShare = 1;
    private long _ticks;
    private int _sinceRead;

    /// <summary>Puts a machine on the bench, at rest at idle.</summary>
    /// <param name="machine">The machine.</param>
    /// <param name="faults">Severities 0 … 1 by id; see <see cref="FaultEffects.Ids"/>.</param>
    /// <param name="roomC">The room, °C; it drifts by some tenths.</param>
    /// <param name="seed">Of all noise.</param>
    /// <param name="heat">What heat meets in it where that is not what the library says; null for the library's.</param>
    public MachineOnBench(
        BenchMachine machine,
        IEnumerable<KeyValuePair<string, double>> faults,
        double roomC,
        int seed,
        HeatMachine? heat = null
    )
    {
        (_machine, _faults, _random) = (machine, FaultEffects.Of(faults), new Random(seed));
        _paths = new HeatPaths(heat ?? HeatMachines.Of(machine), _faults);
        _roomNow = _roomC = roomC + _faults.RoomAddC;
        _boostLeft = machine.BoostSeconds;
        _coolerFan = machine.CoolerFan.Points[0].Percent / 100;
        _caseFans = machine.CaseFans.Points[0].Percent / 100;
        _graphicsFan = 0.3;
        _fastestCaseFan = machine.Plan.Fans.Select(fan => fan.MaxRpm).DefaultIfEmpty(0).Max();
        _at = NetworkNow();
        _heat = new double[HeatNetwork.Nodes(_paths.Machine)];
        _heat[HeatNetwork.CaseNode] = _paths.Machine.BoardW;
        // At rest under idle, and with the fans where that puts them.
        for (int round = 0; round < 6; round++)
        {
            (_heat[HeatNetwork.Die], _) = Demand(_sensorC);
            HeatGraphics();
            _rises = _at.Network.Rest(_heat);
            _sensorC = DieC;
            Steer(double.PositiveInfinity);
            _at = NetworkNow();
        }

        _rises ??= [];
    }

    /// <summary>Elapsed, s.</summary>
    public double Seconds => _ticks * TickSeconds;

    /// <summary>What is set now; it holds from the next tick on.</summary>
    public BenchSettings Settings
    {
        get => _settings;
        set => _settings = value;
    }

    /// <summary>What is true at this moment.</summary>
    public BenchTruth Truth =>
        new(
            Seconds,
            DieC,
            _powerNow,
            _clockNow,
            EffectiveCoolerFan,
            _caseFans * _faults.CaseFanShare,
            RoomC,
            _rises[HeatNetwork.CaseNode] + RoomC,
            _at.Paths.FlowLpm
        );

    /// <summary>The die's own lags and resistances at this moment's fan speeds and flow.</summary>
    public IReadOnlyList<(double TauSeconds, double ResistanceCPerW)> Modes => _at.Network.Modes;

    /// <summary>Where the die would come to rest if this power and these fan speeds went on, °C.</summary>
    /// <param name="watts">Of the processor.</param>
    /// <param name="graphicsW">Of the graphics card.</param>
    public double RestC(double watts, double graphicsW)
    {
        double[] heat = [.. _heat];
        heat[HeatNetwork.Die] = watts;
        if (heat.Length > HeatNetwork.GraphicsDie)
        {
            heat[HeatNetwork.GraphicsDie] = graphicsW;
        }

        return _at.Network.Rest(heat)[HeatNetwork.Die] + RoomC;
    }

    /// <summary>Fins or liquid, °C.</summary>
    public double FinsC => _rises[HeatNetwork.Fins] + RoomC;

    /// <summary>
    /// How much warmer than the liquid the tube to the radiator is, and how much cooler the one back, °C; 0 without a loop.
    /// </summary>
    public double HalfTubeDifferenceC => _at.Paths.FlowLpm is { } flow ? PhysicalConstants.HalfTubeDifferenceC(_powerNow, flow) : 0;

    /// <summary>Drifts by some tenths, and is looked at once a second.</summary>
    private double RoomC => _roomNow;

    private double DieC => _rises[HeatNetwork.Die] + RoomC;

    private double EffectiveCoolerFan => _paths.Machine.Cooler!.MaxRpm > 0 ? _paths.CoolerFanAt(_coolerFan) : 0;

    /// <summary>Carries the machine into another room: what is warm stays warm for a while.</summary>
    /// <param name="roomC">As it is there: a place that is too hot stays behind.</param>
    public void MoveTo(double roomC)
    {
        double by = roomC - _roomC;
        for (int node = 0; node < _rises.Length; node++)
        {
            _rises[node] -= by;
        }

        (_roomC, _roomNow) = (_roomC + by, _roomNow + by);
    }

    /// <summary>Advances by one tick.</summary>
    public void Tick()
    {
        if (_ticks % TicksPerSecond == 0)
        {
            EverySecond();
        }

        double die = DieC;
        bool loaded = _settings.Load > 0;
        (double power, double clock) = Demand(die);
        _boostLeft = loaded ? Math.Max(0, _boostLeft - TickSeconds) : Math.Min(_machine.BoostSeconds, _boostLeft + TickSeconds);
        // The controller eases in below its limit and comes down at once above it.
        double margin = _machine.Processor.TemperatureLimitC - die - _faults.MisreadC;
        _throttle = Math.Clamp(_throttle + (TickSeconds * 0.01 * Math.Min(margin, 0.6)), LowestThrottle, 1);
        (_powerNow, _clockNow) = (power, clock);
        _powerSum += power;
        _clockSum += clock;
        _loadSum +=
            loaded ? 100 * _settings.Load
            : _burst > 0 ? 35
            : 100 * _faults.IdleLoad;
        _throttledFor += loaded && _throttle < 0.995 ? 1 : 0;
        _sinceRead++;
        _heat[HeatNetwork.Die] = power;
        _at.Network.Advance(_rises, _heat, TickSeconds);
        _ticks++;
        // The sensor on the die answers with two short lags of its own; a tick is short against their sum.
        _sensorC += (DieC - _sensorC) * TickSeconds / 0.25;
    }

    /// <summary>Reads the sensors.</summary>
    public BenchReading Read()
    {
        int ticks = Math.Max(1, _sinceRead);
        double power = _sinceRead == 0 ? _powerNow : _powerSum / ticks,
            clock = _sinceRead == 0 ? _clockNow : _clockSum / ticks;
        double seen = _sensorC + _faults.MisreadC,
            caseAir = _rises[HeatNetwork.CaseNode] + RoomC,
            coolant = FinsC;
        bool Shows(string what) => _machine.Shows.Contains(what);
        double spread = _settings.Load > 0 ? _machine.Truth.Processor.CoreSpreadC + _faults.CoreSpreadAddC : 1.5;
        int cores = _machine.Truth.Processor.Cores;
        double tubes = HalfTubeDifferenceC;
        BenchReading reading = new(
            Seconds,
            Whole(seen + _wander, 0.3),
            power,
            clock,
            _loadSum / ticks,
            Math.Max(0, (_paths.Machine.Cooler!.MaxRpm * EffectiveCoolerFan) + (EffectiveCoolerFan > 0 ? 5 * Gauss() : 0)),
            Math.Max(0, (_fastestCaseFan * _caseFans * _faults.CaseFanShare) + (4 * Gauss())),
            RoomC + (0.05 * Gauss()),
            Tenth(caseAir, 0.05),
            _throttledFor > ticks / 2.0,
            Dba(),
            10 * clock / _machine.Truth.Processor.FullClockMHz * (_loadSum / ticks / 100)
        )
        {
            CoresC = Shows("cores")
                ? [.. Enumerable.Range(0, cores).Select(i => Whole(seen + _wander - (spread * i / Math.Max(1, cores - 1)), 0.4))]
                : [],
            ControlC = Shows("control") ? Whole(seen + _machine.Truth.Processor.ControlOffsetC, 0.3) : null,
            CoolantC = _machine.Cooler.IsLiquid && Shows("coolant") ? Tenth(coolant, 0.05) : null,
            TubeOutC = _machine.Cooler.IsLiquid && Shows("tubes") ? Tenth(coolant + tubes, 0.05) : null,
            TubeReturnC = _machine.Cooler.IsLiquid && Shows("tubes") ? Tenth(coolant - tubes, 0.05) : null,
            PumpRpm =
                _machine.Truth.Cooler.PumpRpm is { } pump && Shows("pump")
                    ? Math.Max(0, (pump * _at.Paths.PumpShare) + (_at.Paths.PumpShare > 0 ? 8 * Gauss() : 0))
                    : null,
        };
        if (_machine.Graphics is { } card)
        {
            double chip = _rises[HeatNetwork.GraphicsDie] + RoomC;
            reading = reading with
            {
                GraphicsC = Whole(chip, 0.3),
                GraphicsHotspotC = Whole(
                    chip + (_machine.Truth.Graphics!.HotspotC * _faults.GraphicsFactor * _graphicsNow / card.PowerW!.Value),
                    0.4
                ),
                GraphicsPowerW = _graphicsNow * (1 + (0.01 * Gauss())),
            };
        }

        (_powerSum, _clockSum, _loadSum, _throttledFor, _sinceRead) = (0, 0, 0, 0, 0);
        return reading;
    }

    private void EverySecond()
    {
        bool loaded = _settings.Load > 0;
        _roomNow = _roomC + (0.3 * Math.Sin(Seconds / 700));
        _fluctuation = (0.6 * _fluctuation) + (0.008 * Gauss());
        _wander = (0.975 * _wander) + (0.02 * Gauss());
        _burst =
            loaded ? 0
            : _burst > 0 ? _burst - 1
            : _random.NextDouble() < 0.008 ? 1 + (int)(3 * _random.NextDouble())
            : 0;
        HeatGraphics();
        Steer(1);
        _at = NetworkNow();
    }

    private void HeatGraphics()
    {
        if (_machine.Graphics is not null)
        {
            _graphicsNow = _machine.CardW(_settings.GraphicsLoad);
            _heat[HeatNetwork.GraphicsDie] = _graphicsNow;
        }
    }

    /// <summary>What the processor draws and how fast it runs: load, budget, cap, throttle, leakage.</summary>
    private (double PowerW, double ClockMHz) Demand(double dieC)
    {
        ProcessorTruth chip = _machine.Truth.Processor;
        double leak = 1 + (PhysicalConstants.LeakagePerC * chip.StaticShare * (dieC - LeakageAtC));
        double load =
            _settings.Load > 0 ? _settings.Load
            : _burst > 0 ? 0.35
            : _faults.IdleLoad;
        if (load <= 0)
        {
            return (chip.IdleW * (1 + _fluctuation) * leak, ClockAtIdle * chip.FullClockMHz);
        }

        double sustained = _machine.Processor.SustainedPowerW * _faults.PowerFactor * _faults.BudgetFactor;
        double budget = _boostLeft > 0 ? Math.Max(sustained, _machine.BoostW * _faults.PowerFactor) : sustained;
        double wanted = Math.Min(budget, _settings.PowerCapW ?? double.PositiveInfinity) * _throttle * _faults.PinnedShare;
        double full = _machine.BoostW * _faults.PowerFactor;
        // Voltage falls with the clock; the root is kept while the share stays.
        if (Math.Min(1, wanted / full) is var share && share != _share)
        {
            (_share, _rootOfShare) = (share, Math.Cbrt(share));
        }

        return (Math.Max(chip.IdleW, wanted * load * (1 + _fluctuation) * leak), chip.FullClockMHz * _rootOfShare);
    }

    private void Steer(double seconds)
    {
        double graphics = _machine.Graphics is null ? 0 : _rises[HeatNetwork.GraphicsDie] + RoomC;
        _coolerFan = Follow(_coolerFan, _machine.CoolerFan, graphics, seconds);
        _caseFans = Follow(_caseFans, _machine.CaseFans, graphics, seconds);
        _graphicsFan = CardHeat.FanShare(graphics);
    }

    private double Follow(double now, Steering steering, double graphicsC, double seconds)
    {
        double target =
            _settings.FanPercent / 100
            ?? Math.Min(
                _faults.SteeringCeiling,
                steering.Share(
                    steering.Source switch
                    {
                        "coolant" => FinsC,
                        "gpu" => graphicsC,
                        "board" => _rises[HeatNetwork.CaseNode] + RoomC,
                        "cpu-gpu" => Math.Max(_sensorC + _faults.MisreadC, graphicsC),
                        _ => _sensorC + _faults.MisreadC,
                    }
                )
            );
        return now + ((target - now) * Math.Min(1, seconds / steering.RampSeconds));
    }

    private HeatNetwork NetworkNow()
    {
        static double Stepped(double share) => Math.Round(share / SpeedStep) * SpeedStep;
        OperatingPoint point = new(Stepped(_coolerFan), Stepped(_caseFans), Stepped(_graphicsFan), _settings.PanelOff, _settings.PumpFull);
        if (point == _point && _at is not null)
        {
            return _at;
        }

        _point = point;
        return _networks.TryGetValue(point, out HeatNetwork? known)
            ? known
            : _networks[point] = HeatNetwork.At(
                _paths,
                [point.CoolerFan, point.CaseFans],
                point.GraphicsFan,
                point.PanelOff,
                point.PumpFull
            );
    }

    private double Dba() =>
        Math.Max(
            22,
            SoundLevel.SumDba([
                .. _machine.Cooler.Fans!.Select(fan => SoundLevel.FanDba(fan.DbaAtMax, EffectiveCoolerFan)),
                .. _machine.Plan.Fans.Select(fan => SoundLevel.FanDba(fan.DbaAtMax, _caseFans * _faults.CaseFanShare)),
                SoundLevel.FanDba(_machine.Truth.Case.Supply?.NoiseAtMaxDba ?? 0, Defaults.SupplyFanShare),
            ])
        ) + (0.2 * Gauss());

    private double Whole(double value, double noise) => Math.Round(value + (noise * Gauss()), MidpointRounding.AwayFromZero);

    private double Tenth(double value, double noise) => Math.Round(10 * (value + (noise * Gauss())), MidpointRounding.AwayFromZero) / 10;

    /// <summary>Nearly normal, from sums alone: no function that two machines might round apart.</summary>
    private double Gauss()
    {
        double sum = -6;
        for (int i = 0; i < 12; i++)
        {
            sum += _random.NextDouble();
        }

        return sum;
    }
}

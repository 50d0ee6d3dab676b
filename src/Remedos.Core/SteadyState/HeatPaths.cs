using Remedos.Core.Machines;
using Remedos.Core.Physics;

namespace Remedos.Core.SteadyState;

/// <summary>Temperatures of a machine that is level, °C.</summary>
/// <param name="FinsC">Fins, or a loop's liquid.</param>
/// <param name="InletC">What its cooler breathes.</param>
/// <param name="CardC">Null without a card, and where nobody asked.</param>
internal readonly record struct LevelTemperatures(double ChipC, double BaseC, double FinsC, double InletC, double CaseAirC, double? CardC);

/// <summary>
/// A machine's resistances at one operating point: what the fans' speeds, the pump and the panel make of them, faults included. The
/// steady state in closed form and the simulator's network (<see cref="HeatNetwork"/>) are both built on these, so they cannot part.
/// </summary>
internal sealed class HeatPaths
{
    private readonly HeatMachine _machine;
    private readonly FaultEffects _faults;
    private readonly IReadOnlyList<CaseFan> _fans;
    private readonly int[] _headers;
    private readonly IReadOnlyList<Opening> _openings;

    /// <summary>Of every way of the air: its push at full speed and its conductance; fans, openings, last the hole of the panel.</summary>
    private readonly double[] _pushes,
        _conductances;

    private readonly Flow _pumpOwn,
        _pumpFull;

    /// <summary>Prepares a machine with its faults.</summary>
    public HeatPaths(HeatMachine machine, FaultEffects? faults = null)
    {
        (_machine, _faults) = (machine, faults ?? FaultEffects.None);
        bool sound = ReferenceEquals(_faults, FaultEffects.None);
        _fans = sound
            ? machine.Fans
            :
            [
                .. machine.Fans.Select(fan =>
                    fan with
                    {
                        PathK = fan.PathK * _faults.PathFactor,
                        Inward = _faults.RearReversed && fan.Place == "rear" ? !fan.Inward : fan.Inward,
                    }
                ),
            ];
        _openings = sound ? machine.Openings : [.. machine.Openings.Select(opening => opening with { K = opening.K * _faults.PathFactor })];
        _headers = machine.FanHeaders as int[] ?? [.. machine.FanHeaders];
        int fans = _fans.Count,
            openings = _openings.Count;
        (_pushes, _conductances) = (new double[fans + openings + 1], new double[fans + openings + 1]);
        for (int i = 0; i < fans; i++)
        {
            (_pushes[i], _conductances[i]) = (_fans[i].PushPa(1), 1 / _fans[i].K);
        }

        for (int i = 0; i < openings; i++)
        {
            _conductances[fans + i] = 1 / _openings[i].K;
        }

        _conductances[^1] = 1 / machine.PanelK;
        if (machine.Cooler is { } cooler)
        {
            (_pumpOwn, _pumpFull) = (FlowOf(cooler, pumpFull: false), FlowOf(cooler, pumpFull: true));
        }
    }

    public HeatMachine Machine => _machine;

    public FaultEffects Faults => _faults;

    /// <summary>Which curve each fan follows, of those that move the case's air.</summary>
    public ReadOnlySpan<int> Headers => _headers;

    /// <summary>Share of full speed at which the cooler's fans turn when their header gives so much.</summary>
    public double CoolerFanShare(ReadOnlySpan<double> shares) =>
        _machine.Cooler is not { MaxRpm: > 0 } cooler ? 0 : CoolerFanAt(Share(cooler.Header, shares));

    /// <summary>Likewise, of what the header gives.</summary>
    public double CoolerFanAt(double headerShare) =>
        Math.Min(_faults.CoolerFanCeiling, Math.Max(_machine.Cooler!.MinShare, headerShare) * _faults.CoolerFanShare);

    /// <summary>The air in the case.</summary>
    /// <param name="shares">What each header gives, share of full speed.</param>
    /// <param name="coolerFan">Of the cooler's fans, share of full speed.</param>
    /// <param name="caseFans">Of the case's own fans, as measured; null for what their headers give.</param>
    /// <param name="nearPa">Its pressure at speeds much like these.</param>
    public AirBalance Air(ReadOnlySpan<double> shares, double coolerFan, bool panelOff, double? caseFans = null, double nearPa = 0)
    {
        int ways = _pushes.Length - (panelOff ? 0 : 1);
        Span<double> pushes = stackalloc double[ways];
        Speeds(shares, coolerFan, caseFans, pushes);
        for (int i = 0; i < ways; i++)
        {
            pushes[i] = i < _headers.Length ? _pushes[i] * pushes[i] * pushes[i] : 0;
        }

        return CaseAir.Balance(pushes, _conductances.AsSpan(0, ways), nearPa);
    }

    /// <summary>Likewise, with what flows through every fan and opening.</summary>
    public AirState Flows(ReadOnlySpan<double> shares, double coolerFan, bool panelOff, double? caseFans = null)
    {
        Span<double> speeds = stackalloc double[_fans.Count];
        Speeds(shares, coolerFan, caseFans, speeds);
        return CaseAir.Solve(_fans, speeds, panelOff ? [.. _openings, new Opening("panel", _machine.PanelK)] : _openings);
    }

    private void Speeds(ReadOnlySpan<double> shares, double coolerFan, double? caseFans, Span<double> speeds)
    {
        int from = _machine.RadiatorFrom,
            to = from + _machine.RadiatorFans;
        for (int i = 0; i < _headers.Length; i++)
        {
            speeds[i] =
                i >= from && i < to ? coolerFan
                : _headers[i] == HeatMachine.Supply ? Defaults.SupplyFanShare
                : caseFans ?? (Share(_headers[i], shares) * _faults.CaseFanShare);
        }
    }

    /// <summary>The paths themselves.</summary>
    /// <param name="coolerFan">Share of full speed.</param>
    public OperatingPaths At(AirBalance air, double coolerFan, bool panelOff, bool pumpFull)
    {
        double exchange = Math.Max(Defaults.StillAirM3PerH, air.ExchangeM3PerH) + (panelOff ? Defaults.OpenSideM3PerH : 0);
        double airWPerK = _machine.CaseFactor * (_machine.OpenFrame ? OpenFrameWPerK : CaseAir.ConductanceWPerK(exchange, Defaults.Mixing));
        if (_machine.Cooler is not { } cooler)
        {
            return new OperatingPaths(air, airWPerK, 0, 0, 0, null, 0);
        }

        Flow flow = pumpFull ? _pumpFull : _pumpOwn;
        double fins = cooler.Fins.FinsAt(cooler.MaxRpm * coolerFan) * _faults.FinsFactor;
        return new OperatingPaths(
            air,
            airWPerK,
            _machine.InsideCPerW + cooler.PasteCPerW + _faults.PasteAddCPerW,
            flow.ToFinsCPerW,
            fins,
            flow.Lpm,
            flow.PumpShare
        );
    }

    /// <summary>What a pump makes of the way from base to fins; for air, that way alone.</summary>
    private readonly record struct Flow(double PumpShare, double? Lpm, double ToFinsCPerW);

    private Flow FlowOf(CoolerHeat cooler, bool pumpFull)
    {
        double relative = Math.Max(LeastFlow, _faults.FlowShare * (pumpFull ? 1 / Defaults.PumpShare : 1)),
            film = cooler.FilmCPerW * _faults.ToFinsFactor;
        double? flow = cooler.FlowLpm * relative;
        return new Flow(
            _faults.PumpShare * (pumpFull ? 1 : Defaults.PumpShare),
            flow,
            flow is { } lpm
                ? (film * Math.Pow(relative, PhysicalConstants.FlowExponent)) + PhysicalConstants.HalfTubeDifferenceC(1, lpm)
                : film
        );
    }

    /// <summary>Level under constant heat.</summary>
    /// <param name="withCard">Whether the card's chip is asked for as well.</param>
    public LevelTemperatures Level(in OperatingPaths paths, double cpuW, double cardW, double roomC, bool withCard = false)
    {
        RadiatorAir radiator = _machine.Cooler?.Radiator ?? RadiatorAir.None;
        double metal = _machine.CaseFactor * _machine.MetalWPerK / 3;
        double caseAir = roomC + ((cardW + _machine.BoardW + (radiator == RadiatorAir.Out ? 0 : cpuW)) / (paths.AirWPerK + metal));
        double inlet = radiator == RadiatorAir.In ? roomC : caseAir;
        double fins = inlet + (cpuW * paths.FinsToAir),
            foot = fins + (cpuW * paths.BaseToFins);
        return new LevelTemperatures(foot + (cpuW * paths.DieToBase), foot, fins, inlet, caseAir, withCard ? CardC(caseAir, cardW) : null);
    }

    /// <summary>The card's chip in this air, its own fans in agreement, °C; null without one.</summary>
    public double? CardC(double caseAirC, double cardW) => _machine.Card?.ChipC(caseAirC, cardW, _faults.GraphicsFactor);

    private const double LeastFlow = 0.02,
        OpenFrameWPerK = 1e4;

    private static double Share(int header, ReadOnlySpan<double> shares) => header == HeatMachine.Full ? 1 : shares[header];
}

/// <summary>Resistances at one operating point, °C/W.</summary>
/// <param name="AirWPerK">From the case's air to the room, W/K; its metal comes beside it.</param>
/// <param name="FlowLpm">L/min; null for air.</param>
/// <param name="PumpShare">Of full speed.</param>
internal readonly record struct OperatingPaths(
    AirBalance Air,
    double AirWPerK,
    double DieToBase,
    double BaseToFins,
    double FinsToAir,
    double? FlowLpm,
    double PumpShare
);

using Remedos.Core.Machines;
using Remedos.Core.Physics;

namespace Remedos.Core.SteadyState;

/// <summary>What a machine does while it is level.</summary>
/// <param name="CaseFansAt">The case's own fans turn at this share, as measured; null for by their curves.</param>
/// <param name="CoolerFanAtMost">Its cooler's fans turn no faster, share of full; 1 for as fast as their curve asks.</param>
/// <param name="FansAt">All fans that follow a curve are fixed at this share of full speed; null for by their curves.</param>
/// <param name="CoolerFanAt">Its cooler's fans turn at this share, as measured; null for by their curve.</param>
/// <param name="Held">One header whose fans are held at <paramref name="HeldAt"/>; −1 for none.</param>
public readonly record struct SteadyLoad(
    double CpuW,
    double CardW,
    double RoomC,
    bool PanelOff = false,
    bool PumpFull = false,
    double? FansAt = null,
    double? CoolerFanAt = null,
    double CoolerFanAtMost = 1,
    int Held = -1,
    double HeldAt = 1,
    double? CaseFansAt = null
);

/// <summary>A machine that is level: every fan turns as its curve asks at the temperatures that its air brings about.</summary>
/// <param name="ChipC">Without any throttle; null while its cooler is not known.</param>
/// <param name="LiquidC">Null without a loop.</param>
/// <param name="CoolerRpm">Null without fans.</param>
/// <param name="Shares">What each header gives, share of full speed.</param>
/// <param name="Converged">Whether fans and temperatures agree to a thousandth of full speed; false for curves that cannot settle.</param>
public sealed record SteadyResult(
    double? ChipC,
    double InletC,
    double CaseAirC,
    double? LiquidC,
    double? CoolerRpm,
    double CoolerFanShare,
    IReadOnlyList<double> Shares,
    bool Converged
)
{
    internal OperatingPaths Paths { get; init; }

    internal HeatPaths? Heat { get; init; }

    internal double CardW { get; init; }

    /// <summary>Its card's chip, °C, whose fans hold it by themselves; null without a card.</summary>
    public double? CardC => Heat?.CardC(CaseAirC, CardW);

    /// <summary>What a fan curve reads that follows this; the next best thing where there is no such sensor.</summary>
    /// <param name="source">Of <see cref="Steering.Sources"/>.</param>
    public double SourceC(string source) => SteadySolver.SourceOf(source, ChipC, LiquidC, CardC, CaseAirC);
}

/// <summary>
/// Finds the state in which every fan turns as fast as its curve asks for. Each header by itself is a falling temperature against a rising
/// curve, so its crossing is one; a secant a header finds it in a few rounds, and where curves are steep and pull at each other the headers
/// are bracketed in turn.
/// </summary>
public sealed class SteadySolver
{
    private const int QuickRounds = 24,
        Sweeps = 30,
        Halvings = 48;

    private const double NearEnough = 0.0004,
        Agreed = 0.001;

    /// <summary>Of a speed, below which the air is not worth solving anew.</summary>
    private const double AirStep = 1e-5;

    private readonly HeatPaths _paths;
    private readonly HeatMachine _machine;
    private readonly Steering?[] _curves;
    private readonly double[] _airShares;
    private double _airCoolerFan = double.NaN;
    private bool _airPanelOff;
    private double? _airCaseFans;
    private AirBalance? _air;
    private double[]? _last;
    private readonly bool _followsCard;

    /// <summary>Prepares a machine; one solver serves one thread.</summary>
    /// <param name="near">What the headers give in a machine much like it: it changes the way to the state, not the state.</param>
    public SteadySolver(HeatMachine machine, FaultEffects? faults = null, IReadOnlyList<double>? near = null)
    {
        (_machine, _paths, _last) = (machine, new HeatPaths(machine, faults), near is null ? null : [.. near]);
        _curves = machine.Curves as Steering?[] ?? [.. machine.Curves];
        _airShares = new double[_curves.Length];
        foreach (Steering? curve in _curves)
        {
            _followsCard |= machine.Card is not null && curve?.Source is "gpu" or "cpu-gpu";
        }
    }

    /// <summary>Level under a load.</summary>
    public SteadyResult Solve(in SteadyLoad load)
    {
        double[] shares = new double[_curves.Length];
        double gap = Settle(load, shares, out LevelTemperatures level, out OperatingPaths paths);
        double fan = CoolerFan(load, shares);
        CoolerHeat? cooler = _machine.Cooler;
        return new SteadyResult(
            cooler is null ? null : level.ChipC,
            level.InletC,
            level.CaseAirC,
            cooler is { FlowLpm: not null } ? level.FinsC : null,
            cooler is { MaxRpm: > 0 } ? fan * cooler.MaxRpm : null,
            fan,
            shares,
            gap < Agreed
        )
        {
            Paths = paths,
            Heat = _paths,
            CardW = load.CardW,
        };
    }

    /// <summary>Likewise, its temperatures alone.</summary>
    internal LevelTemperatures Level(in SteadyLoad load, out OperatingPaths paths)
    {
        Settle(load, stackalloc double[_curves.Length], out LevelTemperatures level, out paths);
        return level;
    }

    /// <summary>Brings fans and temperatures into agreement; returns by what share of full speed they still part.</summary>
    /// <param name="shares">Becomes what each header gives.</param>
    private double Settle(in SteadyLoad load, Span<double> shares, out LevelTemperatures level, out OperatingPaths paths)
    {
        int n = shares.Length;
        Span<double> last = stackalloc double[n],
            lastGap = stackalloc double[n];
        for (int i = 0; i < n; i++)
        {
            shares[i] = _curves[i] is null
                ? 1
                : load.FansAt
                    ?? (
                        i == load.Held ? load.HeldAt
                        : _last is null ? 0.6
                        : _last[i]
                    );
        }

        shares.CopyTo(last);
        bool free = load.FansAt is null;
        double gap = free ? double.PositiveInfinity : 0;
        level = At(load, shares, out paths);
        for (int round = 0; free && round < QuickRounds; round++)
        {
            gap = 0;
            for (int i = 0; i < n; i++)
            {
                if (!IsFree(load, i))
                {
                    continue;
                }

                double off = Wanted(i, level) - shares[i];
                gap = Math.Max(gap, Math.Abs(off));
                // The slope of what is wanted over what is given, as far as the last step tells; without one, half a step.
                double moved = shares[i] - last[i],
                    slope = round == 0 || Math.Abs(moved) < 1e-9 ? -0.7 : Math.Clamp((off - lastGap[i]) / moved, -60, -0.25);
                (last[i], lastGap[i]) = (shares[i], off);
                shares[i] = Math.Clamp(shares[i] + (round == 0 ? 0.6 * off : -off / slope), 0, 1);
            }

            if (gap < NearEnough)
            {
                last.CopyTo(shares);
                break;
            }

            level = At(load, shares, out paths);
        }

        if (gap >= NearEnough)
        {
            gap = Bracket(load, shares, ref level, ref paths);
        }

        _last ??= new double[n];
        shares.CopyTo(_last);
        return gap;
    }

    internal HeatPaths Paths => _paths;

    /// <summary>What flows through every fan and opening where it is level under a load.</summary>
    internal AirState Flows(in SteadyLoad load, SteadyResult at) =>
        _paths.Flows([.. at.Shares], at.CoolerFanShare, load.PanelOff, load.CaseFansAt);

    /// <summary>Header after header, each bracketed while the others stand; until none moves any more.</summary>
    private double Bracket(in SteadyLoad load, Span<double> shares, ref LevelTemperatures level, ref OperatingPaths paths)
    {
        double gap = double.PositiveInfinity;
        for (int sweep = 0; sweep < Sweeps && gap >= NearEnough; sweep++)
        {
            for (int i = 0; i < shares.Length; i++)
            {
                if (!IsFree(load, i))
                {
                    continue;
                }

                (double low, double high) = (0, 1);
                for (int halving = 0; halving < Halvings && high - low > 1e-9; halving++)
                {
                    shares[i] = (low + high) / 2;
                    level = At(load, shares, out paths);
                    (low, high) = Wanted(i, level) > shares[i] ? (shares[i], high) : (low, shares[i]);
                }
            }

            gap = 0;
            for (int i = 0; i < shares.Length; i++)
            {
                gap = IsFree(load, i) ? Math.Max(gap, Math.Abs(Wanted(i, level) - shares[i])) : gap;
            }
        }

        return gap;
    }

    private bool IsFree(in SteadyLoad load, int header) => header != load.Held && _curves[header] is not null;

    private double Wanted(int header, in LevelTemperatures level)
    {
        Steering curve = _curves[header]!;
        double? liquid = _machine.Cooler is { FlowLpm: not null } ? level.FinsC : null;
        double? chip = _machine.Cooler is null ? null : level.ChipC + _paths.Faults.MisreadC;
        return Math.Min(_paths.Faults.SteeringCeiling, curve.Share(SourceOf(curve.Source, chip, liquid, level.CardC, level.CaseAirC)));
    }

    internal static double SourceOf(string source, double? chipC, double? liquidC, double? cardC, double caseAirC) =>
        source switch
        {
            "cpu" => chipC ?? caseAirC,
            "coolant" => liquidC ?? chipC ?? caseAirC,
            "gpu" => cardC ?? caseAirC,
            "cpu-gpu" => Math.Max(chipC ?? caseAirC, cardC ?? caseAirC),
            _ => caseAirC,
        };

    private double CoolerFan(in SteadyLoad load, ReadOnlySpan<double> shares) =>
        _machine.Cooler is not { MaxRpm: > 0 } ? 0 : load.CoolerFanAt ?? Math.Min(load.CoolerFanAtMost, _paths.CoolerFanShare(shares));

    private LevelTemperatures At(in SteadyLoad load, ReadOnlySpan<double> shares, out OperatingPaths paths)
    {
        double fan = CoolerFan(load, shares);
        if (
            _air is not { } air
            || load.PanelOff != _airPanelOff
            || load.CaseFansAt != _airCaseFans
            || (_machine.RadiatorFans > 0 && Math.Abs(fan - _airCoolerFan) > AirStep)
            || Moved(shares)
        )
        {
            _air = air = _paths.Air(shares, fan, load.PanelOff, load.CaseFansAt, _air?.CasePa ?? 0);
            (_airCoolerFan, _airPanelOff, _airCaseFans) = (fan, load.PanelOff, load.CaseFansAt);
            shares.CopyTo(_airShares);
        }

        paths = _paths.At(air, fan, load.PanelOff, load.PumpFull);
        return _paths.Level(paths, load.CpuW, load.CardW, load.RoomC, _followsCard);
    }

    private bool Moved(ReadOnlySpan<double> shares)
    {
        foreach (int header in _paths.Headers)
        {
            if (header >= 0 && Math.Abs(shares[header] - _airShares[header]) > AirStep)
            {
                return true;
            }
        }

        return false;
    }
}

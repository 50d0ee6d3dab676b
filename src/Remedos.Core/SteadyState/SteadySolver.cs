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
/// <param name="CardC">Null without a card.</param>
/// <param name="CoolerRpm">Null without fans.</param>
/// <param name="Shares">What each header gives, share of full speed.</param>
/// <param name="Converged">Whether fans and temperatures agree to a thousandth of full speed; false for curves that cannot settle.</param>
public sealed record SteadyResult(
    double? ChipC,
    double InletC,
    double CaseAirC,
    double? LiquidC,
    double? CardC,
    double? CoolerRpm,
    double CoolerFanShare,
    IReadOnlyList<double> Shares,
    bool Converged
)
{
    internal OperatingPaths Paths { get; init; }

    internal AirState Air => Paths.Air;

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
    private readonly double[] _airShares;
    private double _airCoolerFan = double.NaN;
    private bool _airPanelOff;
    private double? _airCaseFans;
    private AirState? _air;
    private double[]? _last;
    private readonly bool _followsCard;

    /// <summary>Prepares a machine; one solver serves one thread.</summary>
    public SteadySolver(HeatMachine machine, FaultEffects? faults = null)
    {
        (_machine, _paths) = (machine, new HeatPaths(machine, faults));
        _airShares = new double[machine.Curves.Count];
        foreach (Steering? curve in machine.Curves)
        {
            _followsCard |= machine.Card is not null && curve?.Source is "gpu" or "cpu-gpu";
        }
    }

    /// <summary>Level under a load.</summary>
    public SteadyResult Solve(in SteadyLoad load)
    {
        int n = _machine.Curves.Count;
        Span<double> shares = stackalloc double[n],
            last = stackalloc double[n],
            lastGap = stackalloc double[n];
        for (int i = 0; i < n; i++)
        {
            shares[i] = _machine.Curves[i] is null
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
        OperatingPaths paths = default;
        LevelTemperatures level = At(load, shares, ref paths);
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

            level = At(load, shares, ref paths);
        }

        if (gap >= NearEnough)
        {
            gap = Bracket(load, shares, ref level, ref paths);
        }

        _last ??= new double[n];
        shares.CopyTo(_last);
        double fan = CoolerFan(load, shares);
        CoolerHeat? cooler = _machine.Cooler;
        return new SteadyResult(
            cooler is null ? null : level.ChipC,
            level.InletC,
            level.CaseAirC,
            cooler is { FlowLpm: not null } ? level.FinsC : null,
            _paths.CardC(level.CaseAirC, load.CardW),
            cooler is { MaxRpm: > 0 } ? fan * cooler.MaxRpm : null,
            fan,
            shares.ToArray(),
            gap < Agreed
        )
        {
            Paths = paths,
        };
    }

    internal HeatPaths Paths => _paths;

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
                    level = At(load, shares, ref paths);
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

    private bool IsFree(in SteadyLoad load, int header) => header != load.Held && _machine.Curves[header] is not null;

    private double Wanted(int header, in LevelTemperatures level)
    {
        Steering curve = _machine.Curves[header]!;
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

    private LevelTemperatures At(in SteadyLoad load, ReadOnlySpan<double> shares, ref OperatingPaths paths)
    {
        double fan = CoolerFan(load, shares);
        if (
            _air is null
            || load.PanelOff != _airPanelOff
            || load.CaseFansAt != _airCaseFans
            || (_machine.RadiatorFans > 0 && Math.Abs(fan - _airCoolerFan) > AirStep)
            || Moved(shares)
        )
        {
            _air = _paths.Air(shares, fan, load.PanelOff, load.CaseFansAt, _air);
            (_airCoolerFan, _airPanelOff, _airCaseFans) = (fan, load.PanelOff, load.CaseFansAt);
            shares.CopyTo(_airShares);
        }

        paths = _paths.At(_air, fan, load.PanelOff, load.PumpFull);
        return _paths.Level(paths, load.CpuW, load.CardW, load.RoomC, _followsCard);
    }

    private bool Moved(ReadOnlySpan<double> shares)
    {
        IReadOnlyList<int> headers = _machine.FanHeaders;
        for (int i = 0; i < headers.Count; i++)
        {
            if (headers[i] >= 0 && Math.Abs(shares[headers[i]] - _airShares[headers[i]]) > AirStep)
            {
                return true;
            }
        }

        return false;
    }
}

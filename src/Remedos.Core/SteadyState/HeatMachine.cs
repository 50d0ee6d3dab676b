using Remedos.Core.Machines;
using Remedos.Core.Physics;

namespace Remedos.Core.SteadyState;

/// <summary>How a radiator's air goes; none for an air cooler.</summary>
public enum RadiatorAir
{
    /// <summary>An air cooler: it breathes the case and leaves its heat there.</summary>
    None,

    /// <summary>It breathes the room and leaves its heat in the case.</summary>
    In,

    /// <summary>It breathes the case, and its heat leaves.</summary>
    Out,
}

/// <summary>A cooler as heat meets it. Resistances °C/W.</summary>
/// <param name="PasteCPerW">Spreader to base.</param>
/// <param name="FilmCPerW">Base to fins; of a loop the block's film, its pump on its own curve.</param>
/// <param name="FlowLpm">Of a loop, its pump on its own curve, L/min; null for air.</param>
/// <param name="Fins">Fins or radiator to the air over the fan's speed.</param>
/// <param name="MaxRpm">0 without fans.</param>
/// <param name="MinShare">Its fans turn no slower, of full speed.</param>
/// <param name="Header">Which curve its fans follow; <see cref="HeatMachine.Full"/> for none.</param>
/// <param name="HalfShare">Half of the 95 % interval of base to air, as a share.</param>
public sealed record CoolerHeat(
    string Kind,
    double PasteCPerW,
    double FilmCPerW,
    double? FlowLpm,
    CoolerCurve Fins,
    double MaxRpm,
    double MinShare,
    int Header,
    RadiatorAir Radiator,
    double HalfShare
)
{
    /// <summary>Base to air with its pump on its own curve, °C/W.</summary>
    public double BaseToAirCPerW(double rpm) => PasteCPerW + FilmCPerW + TransportCPerW + Fins.FinsAt(rpm);

    /// <summary>What the liquid's own warming adds between block and radiator, °C/W.</summary>
    public double TransportCPerW => FlowLpm is { } flow ? PhysicalConstants.HalfTubeDifferenceC(1, flow) : 0;
}

/// <summary>A graphics card as heat meets it; its own fans go by its own chip.</summary>
/// <param name="FinsCPerW">With its fans at full, °C/W.</param>
/// <param name="HalfShare">Half of the 95 % interval of its resistance, as a share.</param>
public sealed record CardHeat(double FullW, double InsideCPerW, double FinsCPerW, double HotspotC, double HalfShare)
{
    private const double NearEnoughC = 0.001;

    private const int MostRounds = 40;

    /// <summary>Where its own fans turn at a temperature of its chip, share of full.</summary>
    public static double FanShare(double chipC) =>
        Math.Clamp((chipC - Defaults.CardFansFromC) / Defaults.CardFansOverC, Defaults.CardLeastFanShare, 1);

    /// <summary>Chip to air at a speed of its fans, °C/W.</summary>
    /// <param name="insideFactor">1 for a sound one.</param>
    public double CPerW(double fanShare, double insideFactor) => (InsideCPerW * insideFactor) + FinsAt(fanShare);

    /// <summary>Fins to air at a speed of its fans, °C/W.</summary>
    public double FinsAt(double fanShare) =>
        FinsCPerW * Math.Pow(Math.Max(Defaults.StillFanShare, fanShare), PhysicalConstants.FanExponent);

    /// <summary>Its chip, level, above the room; the speed of its fans agrees with it.</summary>
    /// <param name="airC">What it breathes.</param>
    public double ChipC(double airC, double watts, double insideFactor)
    {
        double Made(double chipC) => airC + (watts * CPerW(FanShare(chipC), insideFactor));
        // The hotter, the faster, the cooler: what its fans make of a temperature falls with it, so the crossing is one, between that
        // of full fans and that of the slowest. A chord of which one end stays counts that end by half.
        double low = Made(double.PositiveInfinity),
            high = Made(double.NegativeInfinity),
            atLow = Made(low) - low,
            atHigh = Made(high) - high;
        bool fromLow = false,
            fromHigh = false;
        if (atLow < NearEnoughC)
        {
            return low;
        }

        double at = high,
            off = atHigh;
        for (int i = 0; i < MostRounds && Math.Abs(off) > NearEnoughC; i++)
        {
            at = low + ((high - low) * atLow / (atLow - atHigh));
            off = Made(at) - at;
            if (off > 0)
            {
                (low, atLow, atHigh) = (at, off, fromLow ? atHigh / 2 : atHigh);
            }
            else
            {
                (high, atHigh, atLow) = (at, off, fromHigh ? atLow / 2 : atLow);
            }

            (fromLow, fromHigh) = (off > 0, off <= 0);
        }

        return at;
    }
}

/// <summary>Heat capacities, J/K.</summary>
public sealed record HeatStore(double Die, double Base, double Fins, double CaseAir, double Chassis, double CardDie, double CardFins);

/// <summary>
/// A machine as heat meets it: the one description from which the expected state, the matcher, the case's air and the simulator
/// compute. It is made from a workshop's parts (<see cref="HeatMachines"/>) or from the simulator's.
/// </summary>
public sealed record HeatMachine
{
    /// <summary>No curve: always full; and the power supply's own fan.</summary>
    internal const int Full = -1,
        Supply = -2;

    /// <summary>Die to spreader, °C/W, and half of its 95 % interval as a share.</summary>
    public required double InsideCPerW { get; init; }

    /// <summary>Half-width of the chip's own resistance, a share of it.</summary>
    public required double InsideHalfShare { get; init; }

    /// <summary>Null while nothing is known of it.</summary>
    public required CoolerHeat? Cooler { get; init; }

    /// <summary>The graphics card; null where there is none.</summary>
    public required CardHeat? Card { get; init; }

    /// <summary>All that move air through the case: its fans, then the radiator's, last the supply's.</summary>
    public required IReadOnlyList<CaseFan> Fans { get; init; }

    /// <summary>Which curve each of them follows.</summary>
    public required IReadOnlyList<int> FanHeaders { get; init; }

    /// <summary>Where the radiator's begin among them, and how many they are.</summary>
    public required int RadiatorFrom { get; init; }

    /// <summary>How many fans stand on the radiator.</summary>
    public required int RadiatorFans { get; init; }

    /// <summary>Where air passes without a fan.</summary>
    public required IReadOnlyList<Opening> Openings { get; init; }

    /// <summary>Of the hole that the side panel leaves, Pa/(m³/h)².</summary>
    public double PanelK { get; init; } = Defaults.PanelK;

    /// <summary>Without walls: what is inside breathes the room.</summary>
    public bool OpenFrame { get; init; }

    /// <summary>From case air to the room through its metal, W/K.</summary>
    public required double MetalWPerK { get; init; }

    /// <summary>By how much more its case carries away than its fans and metal say; 1 but where an interval is sought.</summary>
    internal double CaseFactor { get; init; } = 1;

    /// <summary>Half of the 95 % interval of the case air's rise, as a share, where it is known how its fans turn.</summary>
    public required double CaseHalfShare { get; init; }

    /// <summary>What case fans leave open of it that are fixed at a speed which nobody noted, as a share; 0 for fans that follow.</summary>
    public double FixedFansHalfShare { get; init; }

    /// <summary>The fastest of the case's own fans at full speed, rpm; null where they are not known.</summary>
    public double? CaseFanMaxRpm { get; init; }

    /// <summary>Share of full speed at which the case's own fans turn; null where that was not logged, or full is not known.</summary>
    /// <param name="rpm">Of the fastest of them.</param>
    internal double? CaseFansAt(double? rpm) => rpm is { } turns && CaseFanMaxRpm is { } full ? Math.Min(1, turns / full) : null;

    /// <summary>Half of the 95 % interval of the case air's rise, as a share.</summary>
    /// <param name="fansLogged">Whether a log says how fast the case's fans turn.</param>
    internal double CaseAirHalfShare(bool fansLogged) => fansLogged ? CaseHalfShare : double.Hypot(CaseHalfShare, FixedFansHalfShare);

    /// <summary>Board, memory and disks, W.</summary>
    public required double BoardW { get; init; }

    /// <summary>Half-width of that, W.</summary>
    public required double BoardHalfW { get; init; }

    /// <summary>The fan curves that its fans follow; null for one that always gives all.</summary>
    public required IReadOnlyList<Steering?> Curves { get; init; }

    /// <summary>What its parts store.</summary>
    public required HeatStore Store { get; init; }

    /// <summary>
    /// The same with an air cooler in place of its own. A radiator stays where it hangs, its fans move the case's air like any others.
    /// </summary>
    internal HeatMachine WithAirCooler(CoolerHeat cooler) =>
        this with
        {
            Cooler = cooler with { Header = Cooler?.Header ?? Full },
            RadiatorFans = 0,
        };

    /// <summary>
    /// Half of the 95 % interval of its chip's temperature, °C: chip, cooler, case air and the mount, each by what it is known from.
    /// </summary>
    /// <param name="at">Where it is level.</param>
    internal double ChipHalfWidthC(SteadyResult at, double watts, double roomC)
    {
        CoolerHeat cooler = Cooler!;
        double caseRise = cooler.Radiator == RadiatorAir.In ? 0 : at.CaseAirC - roomC;
        double inside = InsideHalfShare * InsideCPerW * watts,
            own = cooler.HalfShare * cooler.BaseToAirCPerW(at.CoolerRpm ?? 0) * watts;
        double air = CaseAirHalfShare(fansLogged: false) * caseRise,
            mount = 1.96 * Defaults.MountC;
        return Math.Sqrt((inside * inside) + (own * own) + (air * air) + (mount * mount));
    }

    /// <summary>What its chip may draw until it is at a limit, its fans as fast as their curves turn them there, W.</summary>
    /// <param name="level">Under the load itself.</param>
    internal static double HoldsW(SteadySolver solver, SteadyLoad load, SteadyResult level, double limitC)
    {
        // Level temperatures are linear in the watts while the fans stand; each round takes the speeds of the round before.
        double watts = Math.Max(5, load.CpuW);
        (double chipC, OperatingPaths paths) = (level.ChipC!.Value, level.Paths);
        for (int round = 0; round < HoldRounds; round++)
        {
            if (round > 0 || watts != load.CpuW)
            {
                chipC = solver.Level(load with { CpuW = watts }, out paths).ChipC;
            }

            if (Math.Abs(chipC - limitC) < 0.1)
            {
                break;
            }

            double none = solver.Paths.Level(paths, 0, load.CardW, load.RoomC).ChipC;
            watts = Math.Clamp(watts * (limitC - none) / (chipC - none), 1, MostW);
        }

        return watts;
    }

    private const int HoldRounds = 3;

    private const double MostW = 5000;
}

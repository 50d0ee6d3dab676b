using Remedos.Core.HeatPath;
using Remedos.Core.Machines;

namespace Remedos.Core.SteadyState;

/// <summary>What a sound machine should show, with half of its 95 % interval.</summary>
public readonly record struct Expected(double Value, double HalfWidth)
{
    /// <summary>How many standard deviations a reading lies above it.</summary>
    /// <param name="halfWidth">Half of the reading's own 95 % interval.</param>
    public double Z(double measured, double halfWidth)
    {
        double both = Math.Sqrt((HalfWidth * HalfWidth) + (halfWidth * halfWidth));
        return both > 0 ? 1.96 * (measured - Value) / both : 0;
    }
}

/// <summary>What a machine did in a run: the conditions under which it is asked what a sound one would have shown.</summary>
/// <param name="CoolerRpm">As measured; null where it is not logged.</param>
/// <param name="FansAt">All fans were fixed at this share of full; null for by their curves.</param>
/// <param name="Idle">Watts of chip and card and the cooler's rpm in the minute before; null without an idle phase.</param>
/// <param name="RatedW">The processor's rated watts; null when unknown.</param>
/// <param name="CaseFanRpm">Of the case's fastest fan, as measured; null where it is not logged.</param>
public sealed record RunPoint(
    double CpuW,
    double CardW,
    double RoomC,
    double? CoolerRpm = null,
    double? FansAt = null,
    bool PanelOff = false,
    bool PumpFull = false,
    IdlePoint? Idle = null,
    double? RatedW = null,
    double? CaseFanRpm = null
);

/// <summary>What a machine did at rest before a load.</summary>
public sealed record IdlePoint(double CpuW, double CardW, double? CoolerRpm, double? CaseFanRpm = null);

/// <summary>
/// What a machine should show in a run if nothing is wrong with it. Temperatures are rises above the room, °C; resistances are of the
/// chip's
/// own heat, by the bands that a log's heat path is read in.
/// </summary>
/// <param name="RiseC">Chip above room.</param>
/// <param name="OtherHeatC">Of that, from board, supply and card.</param>
/// <param name="CaseAirC">Case air above room.</param>
/// <param name="BreathesCase">Whether the cooler breathes the case's air, and not the room's.</param>
/// <param name="IdleC">Chip above room at rest; null where nobody looked.</param>
/// <param name="LeftAfterMinute">Of the rise at the load's end, what is left a minute later, 0…1.</param>
/// <param name="CoolerRpm">Its fans by their curve at these watts; null without fans.</param>
/// <param name="MaxRpm">Of the cooler's fans; null without.</param>
/// <param name="AtRatedC">The chip itself at its rated watts, its fans by their curves, in this room, °C; null without a rating.</param>
public sealed record ExpectedState(
    Expected RiseC,
    Expected ChipCPerW,
    Expected CoolerCPerW,
    Expected BulkCPerW,
    Expected OtherHeatC,
    Expected CaseAirC,
    bool BreathesCase,
    Expected? IdleC,
    Expected LeftAfterMinute,
    Expected? CoolerRpm,
    double? MaxRpm,
    Expected? AtRatedC
)
{
    private const double MinuteS = 60;

    /// <summary>Of a machine with a cooler, in a run; null while its cooler is not known.</summary>
    /// <param name="faults">What is held to be part of the machine; none for a sound one.</param>
    public static ExpectedState? Of(HeatMachine machine, RunPoint at, FaultEffects? faults = null)
    {
        if (machine.Cooler is not { } cooler || at.CpuW <= 0)
        {
            return null;
        }

        FaultEffects own = faults ?? FaultEffects.None;
        double[] centre = Figures(machine, own, at),
            squares = new double[centre.Length];
        void Moved(HeatMachine other, FaultEffects with, RunPoint point)
        {
            double[] there = Figures(other, with, point);
            for (int i = 0; i < squares.Length; i++)
            {
                squares[i] += (there[i] - centre[i]) * (there[i] - centre[i]);
            }
        }

        double share = cooler.HalfShare,
            split = Math.Clamp(1.5 * share, Defaults.LeastSplitShare, Defaults.MostSplitShare);
        double fins = cooler.Fins.FinsAt(at.CoolerRpm ?? cooler.MaxRpm),
            solid = cooler.PasteCPerW + cooler.FilmCPerW;
        double finsLess = fins > 0 ? Math.Max(0.2, 1 - (split * solid / fins)) : 1;
        Moved(machine with { InsideCPerW = machine.InsideCPerW * (1 + machine.InsideHalfShare) }, own, at);
        Moved(
            machine,
            own with
            {
                FinsFactor = own.FinsFactor * (1 + share),
                ToFinsFactor = own.ToFinsFactor * (1 + share),
                PasteAddCPerW = own.PasteAddCPerW + (share * cooler.PasteCPerW),
            },
            at
        );
        Moved(machine, own with { FinsFactor = own.FinsFactor * finsLess, ToFinsFactor = own.ToFinsFactor * (1 + split) }, at);
        Moved(machine, own with { PasteAddCPerW = own.PasteAddCPerW + (1.96 * Defaults.MountC / at.CpuW) }, at);
        double air = machine.CaseAirHalfShare(machine.CaseFansAt(at.CaseFanRpm) is not null);
        Moved(machine with { CaseFactor = machine.CaseFactor / (1 + air) }, own, at);
        Moved(machine with { BoardW = machine.BoardW + machine.BoardHalfW }, own, at);
        HeatStore store = machine.Store;
        Moved(
            machine with
            {
                Store = store with { Base = store.Base * (1 + Defaults.CapacityShare), Fins = store.Fins * (1 + Defaults.CapacityShare) },
            },
            own,
            at
        );
        Moved(
            machine with
            {
                Store = store with
                {
                    CaseAir = store.CaseAir * (1 + Defaults.CapacityShare),
                    Chassis = store.Chassis * (1 + Defaults.CapacityShare),
                },
            },
            own,
            at
        );
        if (cooler.MaxRpm > 0 && (at.CoolerRpm is null || share > Defaults.ClaimShare))
        {
            // Nobody knows how fast its fans turn, or how fast they could.
            Moved(
                machine,
                own with
                {
                    CoolerFanShare = own.CoolerFanShare * (1 - Defaults.CurveShare),
                },
                at with
                {
                    CoolerRpm = at.CoolerRpm * (1 - Defaults.CurveShare),
                }
            );
        }

        Expected The(int i) => new(centre[i], Math.Sqrt(squares[i]));
        bool fans = cooler.MaxRpm > 0;
        return new ExpectedState(
            The(0),
            The(1),
            The(2),
            The(3),
            The(4),
            The(5),
            cooler.Radiator != RadiatorAir.In,
            at.Idle is null ? null : The(6),
            The(7),
            fans ? The(8) with { HalfWidth = Math.Sqrt(squares[8] + Square(Defaults.CurveShare * centre[8])) } : null,
            fans ? cooler.MaxRpm : null,
            at.RatedW is null ? null : The(9)
        );
    }

    /// <summary>
    /// A sound card's core above the air it breathes, °C; a machine without a known one is taken to have the usual card of these watts.
    /// </summary>
    public static Expected CardAt(HeatMachine machine, double airC, double watts)
    {
        CardHeat card = machine.Card ?? HeatMachines.UsualCard(watts);
        double rise = card.ChipC(airC, watts, 1) - airC;
        return new Expected(rise, card.HalfShare * rise);
    }

    /// <summary>Case air above the room under these watts, °C.</summary>
    /// <param name="caseFanRpm">Of the case's fastest fan, as measured; null where it is not logged.</param>
    public static Expected CaseAirAt(HeatMachine machine, double cpuW, double cardW, double roomC, double? caseFanRpm = null)
    {
        SteadyLoad load = new(Math.Max(1, cpuW), cardW, roomC, CaseFansAt: machine.CaseFansAt(caseFanRpm));
        double rise = new SteadySolver(machine).Solve(load).CaseAirC - roomC;
        return new Expected(rise, machine.CaseAirHalfShare(load.CaseFansAt is not null) * rise);
    }

    private static double Square(double x) => x * x;

    private static double[] Figures(HeatMachine machine, FaultEffects faults, RunPoint at)
    {
        CoolerHeat cooler = machine.Cooler!;
        double? Share(double? rpm) => rpm is { } turns && cooler.MaxRpm > 0 ? turns / cooler.MaxRpm : null;
        SteadySolver solver = new(machine, faults);
        SteadyLoad load = new(at.CpuW, at.CardW, at.RoomC, at.PanelOff, at.PumpFull, at.FansAt, Share(at.CoolerRpm))
        {
            CaseFansAt = machine.CaseFansAt(at.CaseFanRpm),
        };
        SteadyResult level = solver.Solve(load);
        double[] shares = [.. level.Shares];
        double cardFan = level.CardC is { } hot ? CardHeat.FanShare(hot) : 0;
        double chip = 0,
            middle = 0,
            bulk = 0,
            gone = 0;
        foreach (
            (double tau, double resistance) in HeatNetwork
                .At(solver.Paths, level.CoolerFanShare, shares, cardFan, at.PanelOff, at.PumpFull, load.CaseFansAt)
                .Network.Modes
        )
        {
            chip += tau <= HeatBand.ChipUpToSeconds ? resistance : 0;
            middle += tau > HeatBand.ChipUpToSeconds && tau <= HeatBand.CoolerUpToSeconds ? resistance : 0;
            bulk += tau > HeatBand.CoolerUpToSeconds ? resistance : 0;
            gone += resistance * (1 - Math.Exp(-MinuteS / tau));
        }

        double rise = level.ChipC!.Value - at.RoomC,
            own = (chip + middle + bulk) * at.CpuW;
        IdlePoint idle = at.Idle ?? new IdlePoint(Defaults.RestingShare * at.CpuW, at.CardW, at.CoolerRpm);
        double idleC = at.Idle is null
            ? 0
            : solver
                .Solve(
                    load with
                    {
                        CpuW = idle.CpuW,
                        CardW = idle.CardW,
                        CoolerFanAt = Share(idle.CoolerRpm),
                        CaseFansAt = machine.CaseFansAt(idle.CaseFanRpm),
                    }
                )
                .ChipC!.Value - at.RoomC;
        double left = rise > 0 ? (rise - ((at.CpuW - idle.CpuW) * gone)) / rise : 0;
        double free = solver.Solve(load with { FansAt = null, CoolerFanAt = null }).CoolerRpm ?? 0;
        // Fans that are fixed turn at other watts as they were seen to.
        double? still = machine.FixedFansHalfShare > 0 ? load.CaseFansAt : null;
        double rated = at.RatedW is { } watts ? solver.Solve(new SteadyLoad(watts, at.CardW, at.RoomC, CaseFansAt: still)).ChipC!.Value : 0;
        return [rise, chip, middle, bulk, rise - own, level.CaseAirC - at.RoomC, idleC, left, free, rated];
    }
}

using Remedos.Core.Airflow;
using Remedos.Core.Machines;

namespace Remedos.Core.Simulation;

/// <summary>The speeds and settings that a machine's resistances depend on.</summary>
/// <param name="CoolerFan">Share of full speed, 0 … 1.</param>
/// <param name="CaseFans">Share of full speed, 0 … 1.</param>
/// <param name="GraphicsFan">Share of full speed, 0 … 1.</param>
internal readonly record struct OperatingPoint(double CoolerFan, double CaseFans, double GraphicsFan, bool PanelOff, bool PumpFull);

/// <summary>
/// A machine's heat at one operating point: die – base – fins or coolant – case air – chassis – room, and the graphics card into the case air.
/// Resistances follow fan speed, flow and air exchange; faults are factors on them (docs/science.md, “The simulated machines”).
/// </summary>
internal sealed class MachineNetwork
{
    public const int Die = 0, Base = 1, Fins = 2, CaseNode = 3, Chassis = 4, GraphicsDie = 5, GraphicsFins = 6;

    /// <summary>R of fins goes with the fan's speed to this power; a fan that stands leaves this share of its air to warmth alone.</summary>
    private const double FanExponent = -0.7, StillShare = 0.06;

    /// <summary>ρ·c_p of a coolant, J/(L·K).</summary>
    private const double CoolantJPerLK = 4100;

    /// <summary>A block's film thins with the flow to this power.</summary>
    private const double FlowExponent = -0.35;

    /// <summary>A pump on its own curve runs at this share; set to full it gives it all.</summary>
    private const double OwnPumpShare = 0.85;

    private MachineNetwork(ThermalNetwork network, AirState air, double? flowLpm, double pumpShare)
    {
        (Network, Air, FlowLpm, PumpShare) = (network, air, flowLpm, pumpShare);
    }

    public ThermalNetwork Network { get; }

    public AirState Air { get; }

    /// <summary>Of a liquid cooler's loop, L/min; null for air.</summary>
    public double? FlowLpm { get; }

    public double PumpShare { get; }

    public static int Nodes(MachineSpec machine) => machine.Graphics is null ? 5 : 7;

    /// <summary>How much warmer than the coolant the tube to the radiator is, and how much cooler the one back, °C.</summary>
    public double HalfTubeDifferenceC(double watts) => FlowLpm is { } flow ? watts / (2 * CoolantJPerLK * flow / 60) : 0;

    public static MachineNetwork At(MachineSpec machine, FaultEffects faults, OperatingPoint point)
    {
        AirState air = Exchange(machine, faults, point);
        int n = Nodes(machine);
        double[] capacities = new double[n];
        double[,] g = new double[n, n];
        (capacities[Die], capacities[Base]) = (machine.Processor.DieJPerK, machine.Cooler.BaseJPerK);
        (capacities[Fins], capacities[CaseNode], capacities[Chassis]) = (machine.Cooler.FinsJPerK * faults.FinsHeatShare, machine.Case.AirJPerK, machine.Case.ChassisJPerK);

        double pump = (point.PumpFull ? 1 : OwnPumpShare) * faults.PumpShare;
        double? flow = machine.Cooler.FlowLpm * Math.Max(0.02, faults.FlowShare * (point.PumpFull ? 1 : OwnPumpShare));
        double toFins = machine.Cooler.ToFinsCPerW * faults.ToFinsFactor;
        toFins = flow is { } lpm ? (toFins * Math.Pow(lpm / machine.Cooler.FlowLpm!.Value, FlowExponent)) + (1 / (2 * CoolantJPerLK * lpm / 60)) : toFins;
        double fan = machine.Cooler.Kind == "passive" ? 1 : Math.Max(StillShare, point.CoolerFan * faults.CoolerFanShare);
        double finsToAir = 1 / (machine.Cooler.FinsCPerW * faults.FinsFactor * Math.Pow(fan, FanExponent));

        Join(g, Die, Base, 1 / (machine.Processor.InsideCPerW + machine.Cooler.PasteCPerW + faults.PasteAddCPerW));
        Join(g, Base, Fins, 1 / toFins);
        switch (machine.Radiator)
        {
            case "front-in": // breathes the room, and warms the case
                g[Fins, Fins] += finsToAir;
                g[CaseNode, Fins] -= finsToAir;
                break;
            case "top-out" or "rear-out": // breathes the case, and its heat leaves
                g[Fins, Fins] += finsToAir;
                g[Fins, CaseNode] -= finsToAir;
                break;
            default:
                Join(g, Fins, CaseNode, finsToAir);
                break;
        }

        g[CaseNode, CaseNode] += CaseAir.ConductanceWPerK(air.ExchangeM3PerH);
        Join(g, CaseNode, Chassis, machine.Case.ChassisWPerK);
        g[Chassis, Chassis] += machine.Case.ChassisWPerK / 2;
        if (machine.Graphics is { } card)
        {
            (capacities[GraphicsDie], capacities[GraphicsFins]) = (card.DieJPerK, card.FinsJPerK);
            Join(g, GraphicsDie, GraphicsFins, 1 / (card.InsideCPerW * faults.GraphicsFactor));
            Join(g, GraphicsFins, CaseNode, 1 / (card.FinsCPerW * Math.Pow(Math.Max(StillShare, point.GraphicsFan), FanExponent)));
        }

        return new MachineNetwork(new ThermalNetwork(capacities, g), air, flow, pump);
    }

    private static AirState Exchange(MachineSpec machine, FaultEffects faults, OperatingPoint point)
    {
        CaseFan[] fans = [.. machine.Case.Fans.Select(fan => fan with { PathK = fan.PathK * faults.PathFactor, Inward = faults.RearReversed && fan.Place == "rear" ? !fan.Inward : fan.Inward })];
        List<Opening> openings = [.. machine.Case.Openings.Select(opening => opening with { K = opening.K * faults.PathFactor })];
        if (point.PanelOff)
        {
            openings.Add(new Opening("panel", machine.Case.PanelK));
        }

        double[] shares = [.. fans.Select(fan => fan.Place == "supply" ? 0.6 : point.CaseFans * faults.CaseFanShare)];
        AirState air = CaseAir.Solve(fans, shares, openings);
        // Through an open side the room's air comes and goes by itself as well.
        return point.PanelOff ? air with { ExchangeM3PerH = air.ExchangeM3PerH + CaseAir.OpenSideM3PerH } : air;
    }

    private static void Join(double[,] g, int a, int b, double conductance)
    {
        g[a, a] += conductance;
        g[b, b] += conductance;
        g[a, b] -= conductance;
        g[b, a] -= conductance;
    }
}

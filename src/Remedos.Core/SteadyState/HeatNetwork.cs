using Remedos.Core.Physics;

namespace Remedos.Core.SteadyState;

/// <summary>
/// A machine's heat in time at one operating point: die – base – fins or coolant – case air – chassis – room, and the graphics
/// card into
/// the case air. Its resistances are those of <see cref="HeatPaths"/>.
/// </summary>
internal sealed class HeatNetwork
{
    public const int Die = 0,
        Base = 1,
        Fins = 2,
        CaseNode = 3,
        Chassis = 4,
        GraphicsDie = 5,
        GraphicsFins = 6;

    private HeatNetwork(ThermalNetwork network, OperatingPaths paths) => (Network, Paths) = (network, paths);

    public ThermalNetwork Network { get; }

    public OperatingPaths Paths { get; }

    /// <summary>Nodes without and with a card.</summary>
    public static int Nodes(HeatMachine machine) => machine.Card is null ? 5 : 7;

    /// <summary>Builds it; the machine has a cooler.</summary>
    /// <param name="shares">What each header gives, share of full speed.</param>
    /// <param name="cardFan">Of the card's own fans, share of full speed.</param>
    public static HeatNetwork At(HeatPaths of, ReadOnlySpan<double> shares, double cardFan, bool panelOff, bool pumpFull) =>
        At(of, of.CoolerFanShare(shares), shares, cardFan, panelOff, pumpFull);

    /// <summary>Likewise, with the cooler's fans, or the case's as well, at a speed that was measured.</summary>
    public static HeatNetwork At(
        HeatPaths of,
        double coolerFan,
        ReadOnlySpan<double> shares,
        double cardFan,
        bool panelOff,
        bool pumpFull,
        double? caseFans = null
    )
    {
        HeatMachine machine = of.Machine;
        CoolerHeat cooler = machine.Cooler ?? throw new ArgumentException("A machine without a cooler has no network.", nameof(of));
        OperatingPaths paths = of.At(of.Air(shares, coolerFan, panelOff, caseFans), coolerFan, panelOff, pumpFull);
        int n = Nodes(machine);
        double[] capacities = new double[n];
        double[,] g = new double[n, n];
        (capacities[Die], capacities[Base]) = (machine.Store.Die, machine.Store.Base);
        (capacities[Fins], capacities[CaseNode], capacities[Chassis]) = (
            machine.Store.Fins * of.Faults.FinsHeatShare,
            machine.Store.CaseAir,
            machine.Store.Chassis
        );
        Join(g, Die, Base, 1 / paths.DieToBase);
        Join(g, Base, Fins, 1 / paths.BaseToFins);
        double finsToAir = 1 / paths.FinsToAir;
        switch (cooler.Radiator)
        {
            case RadiatorAir.In: // breathes the room, and warms the case
                g[Fins, Fins] += finsToAir;
                g[CaseNode, Fins] -= finsToAir;
                break;
            case RadiatorAir.Out: // breathes the case, and its heat leaves
                g[Fins, Fins] += finsToAir;
                g[Fins, CaseNode] -= finsToAir;
                break;
            default:
                Join(g, Fins, CaseNode, finsToAir);
                break;
        }

        g[CaseNode, CaseNode] += paths.AirWPerK;
        double metal = machine.CaseFactor * machine.MetalWPerK;
        Join(g, CaseNode, Chassis, metal);
        g[Chassis, Chassis] += metal / 2;
        if (machine.Card is { } card)
        {
            (capacities[GraphicsDie], capacities[GraphicsFins]) = (machine.Store.CardDie, machine.Store.CardFins);
            Join(g, GraphicsDie, GraphicsFins, 1 / (card.InsideCPerW * of.Faults.GraphicsFactor));
            Join(g, GraphicsFins, CaseNode, 1 / card.FinsAt(cardFan));
        }

        return new HeatNetwork(new ThermalNetwork(capacities, g), paths);
    }

    private static void Join(double[,] g, int a, int b, double conductance)
    {
        g[a, a] += conductance;
        g[b, b] += conductance;
        g[a, b] -= conductance;
        g[b, a] -= conductance;
    }
}

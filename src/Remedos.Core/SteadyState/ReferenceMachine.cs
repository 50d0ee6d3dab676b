using Remedos.Core.Machines;

namespace Remedos.Core.SteadyState;

/// <summary>The sound machine that a run is held against, and what it is known from.</summary>
/// <param name="ByParts">Whether its cooler is known by its own figures; otherwise it is any machine with a cooler of its kind, and its
/// half-widths are so wide that it accuses hardly anybody.</param>
/// <param name="Sources">What its figures are from, a phrase each.</param>
/// <param name="Missing">What should be noted so that it could be told better, a phrase each.</param>
public sealed record ReferenceMachine(HeatMachine Machine, bool ByParts, IReadOnlyList<string> Sources, IReadOnlyList<string> Missing)
{
    private const string UsualPlace = "top";

    /// <summary>A machine of known parts.</summary>
    /// <param name="cooler">What is on it; null while not even its kind is known.</param>
    /// <param name="plan">Its fans and headers as they are.</param>
    public static ReferenceMachine? Of(Build build, CoolerPart? cooler, AirPlan plan)
    {
        if (cooler is null)
        {
            return null;
        }

        HeatMachine machine = HeatMachines.Of(build, cooler, plan);
        return new ReferenceMachine(
            machine,
            machine.Cooler!.HalfShare < Defaults.ClaimShare,
            HeatMachines.Sources(build, cooler),
            HeatMachines.Missing(build, cooler)
        );
    }

    /// <summary>The same beside a log that says how fast its case's fans turn.</summary>
    /// <param name="caseFanRpm">Of the fastest; null where it is not logged.</param>
    internal ReferenceMachine Turning(double? caseFanRpm) =>
        Machine.CaseFansAt(caseFanRpm) is null
            ? this
            : this with
            {
                Sources =
                [
                    .. Sources.Select(source => source.Split(HeatMachines.FixedPhrase)[0]),
                    $"case fans at {caseFanRpm:0} rpm, as logged",
                ],
                Missing = [.. Missing.Where(what => what != HeatMachines.FixedMissing)],
            };

    /// <summary>The usual machine with a kind of cooler; null while the kind is not known.</summary>
    /// <param name="watts">The processor's, W.</param>
    /// <param name="cardW">The card's; 0 without one.</param>
    public static ReferenceMachine? OfKind(string? coolerKind, double watts, double? limitC, double cardW)
    {
        if (coolerKind is null)
        {
            return null;
        }

        Build build = new(
            new ProcessorPart("its processor", null, watts, limitC ?? Defaults.LimitC),
            null,
            null,
            null,
            cardW > 0 ? new GraphicsPart(cardW) : null,
            Defaults.RoomC,
            Defaults.HottestRoomC
        );
        CoolerPart cooler = CoolerPart.OfKind(coolerKind);
        return Of(build, cooler, AirPlans.Of(build, cooler, cooler.IsLiquid ? UsualPlace : null));
    }
}

namespace Remedos.Core.Bays;

/// <summary>A way to run a machine, and why one would.</summary>
/// <param name="Id">usual, fixed-fans, panel-off, fans-full, capped-power, pump-full or by-hand.</param>
/// <param name="Why">What it tells that the usual run does not.</param>
/// <param name="ByHand">What a hand has to do for it; null for nothing.</param>
/// <param name="Needs">What a sender must be able to do so that no hand is needed (<see cref="BayHello.Obeys"/>); null when nothing has to
/// be waited for.</param>
/// <param name="Under">What it asks of the machine under load.</param>
public sealed record RunVariant(string Id, string Title, string Why, string? ByHand, string? Needs, BenchOrder Under)
{
    /// <summary>Two variants that other rules ask for by name.</summary>
    public const string OwnersLoad = "by-hand",
        FixedFans = "fixed-fans";

    private const double FixedFanPercent = 60;

    /// <summary>All of them, the usual one first.</summary>
    public static IReadOnlyList<RunVariant> All { get; } =
    [
        new(
            "usual",
            "As the owner uses it",
            "Closed case, its own fans, full load: what everything else is compared with.",
            "Close the case.",
            null,
            new(1)
        ),
        new(
            FixedFans,
            "Fans fixed",
            "Only with equal fans can two coolers be compared fairly.",
            $"Set all fans to {FixedFanPercent:0} % in the firmware.",
            BayHello.Fans,
            new(1, FanPercent: FixedFanPercent)
        ),
        new(
            "panel-off",
            "Side panel off",
            "If it drops much, the case starves it; if not, look at the cooler.",
            "Take the side panel off.",
            BayHello.Panel,
            new(1, PanelOff: true)
        ),
        new(
            "fans-full",
            "Fans full",
            "If it drops much, the fans are steered too low; if not, the heat does not reach the fins.",
            "Set all fans to full in the firmware.",
            BayHello.Fans,
            new(1, FanPercent: 100)
        ),
        new(
            "capped-power",
            "Power capped at two thirds",
            "Still hot at few watts is contact or a pump, not a cooler that is too small.",
            "Cap the processor at two thirds of its rated watts in the firmware.",
            BayHello.Cap,
            new(1)
        ),
        new(
            "pump-full",
            "Pump full",
            "If it helps, the pump stands on a header that slows it.",
            "Set the pump’s header to full in the firmware.",
            BayHello.Pump,
            new(1, PumpFull: true)
        ),
        new(
            OwnersLoad,
            "The owner’s own load",
            "Whether it matters in what the owner does.",
            "Start the owner’s program when the bench says so.",
            null,
            new(0)
        ),
    ];

    /// <summary>The order under load, for a processor of this rated power.</summary>
    public BenchOrder For(double? ratedPowerW, string work) =>
        (Id == "capped-power" ? Under with { PowerCapW = ratedPowerW is { } rated ? Math.Round(rated * 2 / 3) : null } : Under) with
        {
            Work = work,
        };
}

namespace Remedos.Core.Machines;

/// <summary>
/// What a fault of a severity does to a machine: factors and additions, 1 and 0 without it. Ids as in docs/science.md, “Diagnosis”.
/// </summary>
public sealed record FaultEffects
{
    /// <summary>A sound machine.</summary>
    public static readonly FaultEffects None = new();

    /// <summary>More between chip and base, °C/W.</summary>
    public double PasteAddCPerW { get; init; }

    /// <summary>More between the hottest core and the coolest, °C at the rated watts.</summary>
    public double CoreSpreadAddC { get; init; }

    /// <summary>Share of the loop's flow that is left.</summary>
    public double FlowShare { get; init; } = 1;

    /// <summary>Share of the pump's speed that is left.</summary>
    public double PumpShare { get; init; } = 1;

    /// <summary>Factor on what lies between base and fins.</summary>
    public double ToFinsFactor { get; init; } = 1;

    /// <summary>Factor on what lies between fins and air.</summary>
    public double FinsFactor { get; init; } = 1;

    /// <summary>Share of the fins' heat capacity that is left.</summary>
    public double FinsHeatShare { get; init; } = 1;

    /// <summary>The most that the cooler's fan still turns, a share of its fastest.</summary>
    public double CoolerFanShare { get; init; } = 1;

    /// <summary>The cooler's fans turn no faster than this share of full.</summary>
    public double CoolerFanCeiling { get; init; } = 1;

    /// <summary>The most that the case's fans still turn, a share of their fastest.</summary>
    public double CaseFanShare { get; init; } = 1;

    /// <summary>Of grilles, filters and openings.</summary>
    public double PathFactor { get; init; } = 1;

    /// <summary>Whether the fan at the back blows inward.</summary>
    public bool RearReversed { get; init; }

    /// <summary>The steering gives no more than this, 0 … 1.</summary>
    public double SteeringCeiling { get; init; } = 1;

    /// <summary>Added to the room, °C.</summary>
    public double RoomAddC { get; init; }

    /// <summary>Factor on the chip's power.</summary>
    public double PowerFactor { get; init; } = 1;

    /// <summary>Factor on the power budget.</summary>
    public double BudgetFactor { get; init; } = 1;

    /// <summary>Load that runs while nobody asks for one, 0…1.</summary>
    public double IdleLoad { get; init; }

    /// <summary>Added to what the chip's sensor says, °C.</summary>
    public double MisreadC { get; init; }

    /// <summary>Of the watts that it would draw, what firmware leaves it that holds the clock down.</summary>
    public double PinnedShare { get; init; } = 1;

    /// <summary>Factor on the card's own resistances.</summary>
    public double GraphicsFactor { get; init; } = 1;

    /// <summary>Every fault that can be simulated, with what a severity of 0 … 1 does and why so much.</summary>
    private static readonly Dictionary<string, Func<FaultEffects, double, FaultEffects>> Known = new(StringComparer.Ordinal)
    {
        // A felted fin stack loses up to two thirds of its air, and the same dust sits in the filters.
        ["dust-blocked-fins"] = (e, s) => e with { FinsFactor = e.FinsFactor * (1 + (1.9 * s)), PathFactor = e.PathFactor * (1 + (3 * s)) },
        // Dried paste adds 0.1 to 0.3 °C/W.
        ["paste-aged"] = (e, s) => e with { PasteAddCPerW = e.PasteAddCPerW + 0.02 + (0.28 * s) },
        // A cooler that hangs on some of its screws touches on one side: worse than paste, and the cores differ.
        ["poor-contact"] = (e, s) =>
            e with
            {
                PasteAddCPerW = e.PasteAddCPerW + 0.05 + (0.5 * s),
                CoreSpreadAddC = e.CoreSpreadAddC + 3 + (9 * s),
            },
        // Without a pump only warmth moves the liquid: a few percent of its flow.
        ["pump-failed"] = (e, s) => e with { FlowShare = e.FlowShare * (1 - (0.96 * s)), PumpShare = e.PumpShare * (1 - s) },
        ["loop-restricted"] = (e, s) =>
            e with
            {
                FlowShare = e.FlowShare * (1 - (0.2 + (0.72 * s))),
                PumpShare = e.PumpShare * (1 + (0.05 * s)),
            },
        // Air in the loop: less flow, less liquid to warm, part of the radiator dry.
        ["coolant-lost"] = (e, s) =>
            e with
            {
                FlowShare = e.FlowShare * (1 - (0.6 * s)),
                FinsFactor = e.FinsFactor * (1 + (0.9 * s)),
                FinsHeatShare = e.FinsHeatShare * (1 - (0.5 * s)),
            },
        ["cooler-undersized"] = (e, s) =>
            e with
            {
                FinsFactor = e.FinsFactor * (1 + (1.3 * s)),
                ToFinsFactor = e.ToFinsFactor * (1 + (0.5 * s)),
                FinsHeatShare = e.FinsHeatShare * (1 - (0.5 * s)),
            },
        // A worn bearing or a cable in the blades lets it turn no faster than this, whatever it is asked for.
        ["fan-failed"] = (e, s) => e with { CoolerFanCeiling = Math.Min(e.CoolerFanCeiling, 1 - s) },
        ["fan-reversed"] = (e, s) => e with { RearReversed = e.RearReversed || s > 0, FinsFactor = e.FinsFactor * (1 + (0.35 * s)) },
        ["fan-control"] = (e, s) => e with { SteeringCeiling = Math.Min(e.SteeringCeiling, 1 - (0.7 * s)) },
        // Fans that hardly turn behind covered grilles: a tenth of the air is left.
        ["case-starved"] = (e, s) =>
            e with
            {
                PathFactor = e.PathFactor * (1 + (30 * s)),
                CaseFanShare = e.CaseFanShare * (1 - (0.85 * s)),
            },
        ["room-hot"] = (e, s) => e with { RoomAddC = e.RoomAddC + 4 + (10 * s) },
        ["power-excess"] = (e, s) => e with { PowerFactor = e.PowerFactor * (1.1 + (0.4 * s)) },
        ["background-load"] = (e, s) => e with { IdleLoad = Math.Max(e.IdleLoad, 0.1 + (0.4 * s)) },
        ["sensor-misread"] = (e, s) => e with { MisreadC = e.MisreadC + 8 + (15 * s) },
        ["power-limited"] = (e, s) => e with { BudgetFactor = e.BudgetFactor * (0.9 - (0.4 * s)) },
        // A quarter of the clock and less, whatever it is asked for.
        ["clock-held"] = (e, s) => e with { PinnedShare = 0.014 - (0.008 * s) },
        // A bearing that is heard and cools as before.
        ["noisy-part"] = (e, _) => e,
        // Dried pads and paste: the way from chip to fins trebles at worst, and the hot spot stands out as much.
        ["gpu-cooling"] = (e, s) => e with { GraphicsFactor = e.GraphicsFactor * (1 + (2.2 * s)) },
    };

    /// <summary>The causes that have an effect.</summary>
    public static IReadOnlyCollection<string> Ids => Known.Keys;

    /// <summary>Faults that are gone once the cooler was lifted and put back with new paste.</summary>
    public static readonly IReadOnlyList<string> OfTheMount = ["paste-aged", "poor-contact"];

    /// <summary>Faults that go with the cooler: another one has none of them.</summary>
    public static readonly IReadOnlyList<string> OfTheCooler =
    [
        .. OfTheMount,
        "dust-blocked-fins",
        "pump-failed",
        "loop-restricted",
        "coolant-lost",
        "cooler-undersized",
        "fan-failed",
    ];

    /// <summary>The effects of several faults together.</summary>
    /// <param name="severities">By id, 0 … 1; a severity of 0 is no fault. Unknown ids throw; see <see cref="Ids"/>.</param>
    public static FaultEffects Of(IEnumerable<KeyValuePair<string, double>> severities) =>
        severities
            .Where(pair => pair.Value > 0)
            .OrderBy(pair => pair.Key, StringComparer.Ordinal)
            .Aggregate(new FaultEffects(), (effects, pair) => Known[pair.Key](effects, pair.Value));
}

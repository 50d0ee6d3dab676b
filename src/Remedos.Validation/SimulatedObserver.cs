using Remedos.Core.Diagnosis;
using Remedos.Core.Runs;

namespace Remedos.Validation;

/// <summary>
/// What eyes, hands and the owner tell of a simulated machine. Where the simulation knows (warm tubes, throttling, fans that are loud) it
/// decides; for the rest, rules of
/// the trade by fault and severity. They err like people: now and then something is seen that is not there.
/// </summary>
internal sealed class SimulatedObserver(
    CaseMachine machine,
    IReadOnlyDictionary<string, double> faults,
    RunAnalysis usual,
    RunConditions conditions,
    double tubesC,
    bool coldLiquid,
    Random random
)
{
    private const double OneHotC = 8;

    private static readonly Dictionary<string, (string State, double Share)[]> Beginnings = new(StringComparer.Ordinal)
    {
        ["dust-blocked-fins"] = [("gradual", 0.82), ("summer", 0.12)],
        ["paste-aged"] = [("gradual", 0.85)],
        ["poor-contact"] = [("after-work-or-move", 0.62), ("since-new", 0.3)],
        ["pump-failed"] = [("sudden", 0.8), ("gradual", 0.12)],
        ["loop-restricted"] = [("gradual", 0.8), ("sudden", 0.1)],
        ["coolant-lost"] = [("gradual", 0.6), ("sudden", 0.22), ("after-work-or-move", 0.12)],
        ["cooler-undersized"] = [("since-new", 0.7), ("after-work-or-move", 0.18)],
        ["fan-failed"] = [("sudden", 0.72), ("gradual", 0.18)],
        ["fan-reversed"] = [("after-work-or-move", 0.55), ("since-new", 0.4)],
        ["fan-control"] = [("since-new", 0.33), ("after-work-or-move", 0.36), ("sudden", 0.24)],
        ["case-starved"] = [("since-new", 0.46), ("after-work-or-move", 0.38)],
        ["room-hot"] = [("summer", 0.7), ("after-work-or-move", 0.2)],
        ["power-excess"] = [("after-work-or-move", 0.5), ("since-new", 0.4)],
        ["background-load"] = [("sudden", 0.58), ("gradual", 0.28), ("after-work-or-move", 0.1)],
        ["sensor-misread"] = [("since-new", 0.42), ("sudden", 0.28), ("after-work-or-move", 0.2)],
        ["power-limited"] = [("since-new", 0.5), ("sudden", 0.25), ("after-work-or-move", 0.2)],
        ["clock-held"] = [("sudden", 0.6), ("after-work-or-move", 0.3)],
        ["noisy-part"] = [("gradual", 0.6), ("sudden", 0.25)],
        ["gpu-cooling"] = [("gradual", 0.66), ("sudden", 0.14)],
    };

    private static readonly string[] AnyBeginning = ["since-new", "after-work-or-move", "gradual", "sudden", "summer"];

    /// <summary>Whether a noise was told of.</summary>
    private bool _heard;

    private string Heard(string state)
    {
        _heard |= state == "yes";
        return state;
    }

    /// <summary>The state that is told; null when it cannot be seen here.</summary>
    public string? Tell(string evidence)
    {
        double Severity(string cause) => faults.GetValueOrDefault(cause);
        bool Has(string cause) => Severity(cause) > 0;
        string Yes(double share) => random.NextDouble() < share ? "yes" : "no";
        double loss = usual.ThermalLimit?.ClockLossPercent ?? 0;
        double? first = usual.ThermalLimit?.FirstSeconds - usual.Phases.FirstOrDefault(phase => phase.Kind == PhaseKind.Load)?.StartSeconds;
        return evidence switch
        {
            "onset" => Onset(),
            "shutdowns" => Yes(
                first < 60 ? 0.5
                : loss > 15 ? 0.3
                : loss > 5 ? 0.15
                : 0.05
            ),
            "stutter-under-load" => Yes(
                Has("clock-held") ? 0.65
                : loss > 8 ? 0.75
                : loss > 2 ? 0.45
                : Severity("power-limited") > 0.3 ? 0.55
                : Severity("background-load") > 0.3 ? 0.4
                : 0.09
            ),
            "fans-always-loud" => Yes(
                usual.Fan is { IdleRpm: { } idle, LoadRpm: { } loaded } && loaded > 0 && idle > 0.75 * loaded && usual.Idle?.RiseC > 15
                    ? 0.6
                : usual.Load?.SustainedTemperatureC > (conditions.TemperatureLimitC ?? 95) - 10 ? 0.45
                : Has("background-load") ? 0.5
                : Has("noisy-part") ? 0.3
                : 0.1
            ),
            "slow-all-the-time" => Yes(
                Has("clock-held") ? 0.93
                : Severity("background-load") > 0.3 ? 0.6
                : Severity("power-limited") > 0.4 ? 0.55
                : Severity("pump-failed") > 0.8 ? 0.3
                : 0.06
            ),
            "crashes" => Yes(
                first < 60 ? 0.25
                : Severity("power-excess") > 0.5 ? 0.35
                : Severity("gpu-cooling") > 0.5 ? 0.25
                : 0.07
            ),
            "noise-grinding" => Heard(
                Yes(
                    Has("noisy-part") ? 0.58
                    : Has("fan-failed") ? 0.45
                    : Has("pump-failed") ? 0.2
                    : 0.03
                )
            ),
            "noise-gurgling" => Yes(
                Severity("coolant-lost") > 0.3 ? 0.65
                : Has("coolant-lost") ? 0.35
                : 0.02
            ),
            "noise-rattling" => Heard(
                Yes(
                    Has("noisy-part") ? 0.45
                    : Has("fan-failed") ? 0.25
                    : Has("poor-contact") ? 0.1
                    : 0.06
                )
            ),
            "dust" => Dust(Severity("dust-blocked-fins")),
            "tube-difference" => tubesC > OneHotC ? Mostly("one-hot", "even", 0.92)
            : coldLiquid ? Mostly("both-cold", "even", 0.7)
            : Mostly("even", "one-hot", 0.94),
            "paste-print" => Print(Severity("paste-aged"), Has("poor-contact")),
            "film-left-on" => Yes(Has("poor-contact") ? 0.1 : 0.002),
            "screws-loose" => Yes(Has("poor-contact") ? 0.58 : 0.02),
            "standoffs-bottom-out" => Yes(Has("poor-contact") ? 0.22 : 0.01),
            "fan-wrong-way" => Yes(Has("fan-reversed") ? 0.96 : 0.012),
            "blade-blocked" => Yes(Has("fan-failed") ? 0.38 : 0.012),
            // Who hears no noise has none to look for; another's noise is now and then taken for a fan's.
            "noise-source" => Yes(
                Has("noisy-part") ? 0.82
                : Has("fan-failed") ? 0.35
                : Has("pump-failed") ? 0.25
                : _heard ? 0.12
                : 0.003
            ),
            "leak-marks" => Yes(Has("coolant-lost") ? 0.42 : 0.006),
            _ => null,
        };
    }

    /// <summary>The owner tells of the fault that matters most to them, or of none.</summary>
    private string Onset()
    {
        string? worst = faults.Count == 0 ? null : faults.MaxBy(fault => fault.Value * (0.5 + random.NextDouble())).Key;
        double left = random.NextDouble();
        foreach ((string state, double share) in worst is null ? [] : Beginnings[worst])
        {
            left -= share;
            if (left < 0)
            {
                return state;
            }
        }

        return AnyBeginning[random.Next(AnyBeginning.Length)];
    }

    private string Dust(double severity)
    {
        bool dusty = machine.Setting is "workshop-dust" or "flour-dust" or "pets-or-smoke";
        (double heavy, double light) =
            severity > 0.6 ? (0.85, 0.13)
            : severity > 0.3 ? (0.6, 0.36)
            : severity > 0 ? (0.25, 0.6)
            : dusty && machine.AgeMonths > 12 ? (0.14, 0.62)
            : machine.AgeMonths < 6 ? (0.01, 0.2)
            : (0.06, 0.42);
        double seen = random.NextDouble();
        return seen < heavy ? "heavy"
            : seen < heavy + light ? "light"
            : "none";
    }

    private string Print(double dried, bool badContact)
    {
        double seen = random.NextDouble();
        return badContact
            ? seen < 0.66
                ? "ring-or-spot"
                : seen < 0.78
                    ? "untouched"
                    : seen < 0.92
                        ? "thin"
                        : "full"
            : dried > 0.3
                ? seen < 0.76
                    ? "dried"
                    : seen < 0.88
                        ? "thin"
                        : "full"
                : dried > 0
                    ? seen < 0.5
                        ? "dried"
                        : seen < 0.7
                            ? "thin"
                            : "full"
                    : seen < 0.82
                        ? "full"
                        : seen < 0.92
                            ? "thin"
                            : seen < 0.96
                                ? "ring-or-spot"
                                : "dried";
    }

    private string Mostly(string usually, string otherwise, double share) => random.NextDouble() < share ? usually : otherwise;
}

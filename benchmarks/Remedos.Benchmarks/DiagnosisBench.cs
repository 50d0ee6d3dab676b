using Remedos.Core.Diagnosis;

namespace Remedos.Benchmarks;

/// <summary>A full answer: posterior, reasons and the ranking of what to check next, with twelve observations.</summary>
internal static class DiagnosisBench
{
    public static void Run()
    {
        DiagnosisCase asked = new(
            new CaseMachine("liquid", 40, false, "home"),
            [
                new("onset", "sudden"),
                new("shutdowns", "no"),
                new("stutter-under-load", "yes"),
                new("fans-always-loud", "yes"),
                new("idle-rise", "raised"),
                new("time-to-limit", "minutes"),
                new("recovery", "slow"),
                new("swollen-band", "cooler"),
                new("resistance-ratio", "high"),
                new("fan-response", "ramps"),
                new("pump-speed", "normal"),
                new("dust", "light"),
            ]
        );
        (double ms, _) = Table.Medians(() => Diagnoser.Of(asked).Causes[0].Probability, () => 0);
        Table.Row("diagnosis with 12 observations, and next checks (aim: 10 ms)", $"{ms:0.0} ms", "", "");
    }
}

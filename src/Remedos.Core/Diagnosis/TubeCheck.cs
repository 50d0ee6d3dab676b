using Remedos.Core.Runs;

namespace Remedos.Core.Diagnosis;

/// <summary>What two thermometer readings on a loop's tubes mean.</summary>
/// <param name="State">even, one-hot or both-cold, as the evidence “tube-difference” has them.</param>
/// <param name="FlowLitresPerMinute">What the loop carries; null without the watts, or when the tubes are too even to tell.</param>
public sealed record TubeCheck(string State, double DifferenceC, double? FlowLitresPerMinute, string Sentence)
{
    /// <summary>A hand cannot tell tubes that differ by less, °C.</summary>
    private const double ApartC = 6;

    /// <summary>A loop that carries less is starved, L/min.</summary>
    private const double StarvedLpm = 0.4;

    /// <summary>Whether a hand that finds the tubes even tells anything: at few watts even a starved loop's hardly differ.</summary>
    public static bool HandTells(double watts) => RunFigures.FlowOf(watts, ApartC) >= StarvedLpm;

    /// <summary>Tubes no warmer than this above the room carry nothing off, °C.</summary>
    private const double ColdAboveRoomC = 3;

    /// <summary>Two contact thermometers agree to about so much, °C.</summary>
    private const double ReadingC = 1;

    /// <summary>Reads the tubes that a run carries; null without both.</summary>
    public static TubeCheck? Of(RunAnalysis run) =>
        run.Beside is { TubeOutC: { } there, TubeReturnC: { } back } ? Of(there, back, run.Load?.SustainedPowerW, run.AmbientC) : null;

    /// <summary>Reads the two tubes after ten minutes of load.</summary>
    /// <param name="oneC">One tube near the block, °C.</param>
    /// <param name="otherC">The other.</param>
    /// <param name="watts">What the chip draws meanwhile; null when it is not known.</param>
    /// <param name="roomC">Null when it is not known; then a loop that carries nothing cannot be told from an idle one.</param>
    public static TubeCheck Of(double oneC, double otherC, double? watts, double? roomC)
    {
        double apart = Math.Abs(oneC - otherC);
        if (roomC is { } room && Math.Max(oneC, otherC) < room + ColdAboveRoomC)
        {
            return new TubeCheck("both-cold", apart, null, "Both tubes are as cold as the room: no heat gets into the liquid.");
        }

        if (watts is not > 0 || apart <= ReadingC)
        {
            string felt = apart >= ApartC ? "one-hot" : "even";
            return new TubeCheck(
                felt,
                apart,
                null,
                $"{Degrees.By(apart, "0.0")} between the tubes: {(felt == "even" ? "the loop flows" : "hardly any flow")}."
            );
        }

        // Where the watts are known the flow decides, not the degrees: 5 °C are much at 45 W and little at 250.
        double drawn = watts.Value;
        string state = RunFigures.FlowOf(drawn, apart) < StarvedLpm ? "one-hot" : "even",
            verdict = state == "even" ? "the loop flows" : "hardly any flow";
        double flow = RunFigures.FlowOf(drawn, apart),
            low = RunFigures.FlowOf(drawn, apart + ReadingC),
            high = RunFigures.FlowOf(drawn, apart - ReadingC);
        return new TubeCheck(
            state,
            apart,
            flow,
            $"{Degrees.By(apart, "0.0")} between the tubes at {drawn:0} W: about {flow:0.00} L/min ({low:0.00} to {high:0.00}), {verdict}."
        );
    }
}

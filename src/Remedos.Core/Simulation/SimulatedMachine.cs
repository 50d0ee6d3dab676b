using Remedos.Core.Physics;

namespace Remedos.Core.Simulation;

/// <summary>A machine as the simulated bench knows it. Capacities J/K, resistances °C/W, powers W.</summary>
/// <param name="PasteCPerW">Die to base: inside the chip, paste and contact.</param>
/// <param name="PipesCPerW">Base to fins, or block to coolant.</param>
/// <param name="FinsCPerW">Fins or radiator to air at the fan's full speed; grows as speed^−0.7 below it.</param>
/// <param name="CaseCPerW">Case air to room.</param>
/// <param name="DieJPerK">Of the die and spreader.</param>
/// <param name="BaseJPerK">Of the base plate.</param>
/// <param name="FinsJPerK">Of the fins, or of coolant and radiator.</param>
/// <param name="CaseJPerK">Of case air and metal.</param>
/// <param name="FullFanRpm">Fan at 100 %.</param>
/// <param name="FanFromC">Die temperature at which an automatic fan leaves its lowest 35 %.</param>
/// <param name="FanFullC">Die temperature at which it is at 100 %.</param>
/// <param name="LoadW">Power of the full load that it can sustain by its budget.</param>
/// <param name="BoostW">Power while the boost budget lasts.</param>
/// <param name="BoostSeconds">How long it lasts; 0 for none.</param>
/// <param name="IdleW">At rest.</param>
/// <param name="BoardW">Heat of board and supply into the case.</param>
/// <param name="LimitC">Where the controller cuts power and clock.</param>
/// <param name="FullClockMHz">At full load, unhindered.</param>
public sealed record SimulatedMachine(
    double PasteCPerW,
    double PipesCPerW,
    double FinsCPerW,
    double CaseCPerW,
    double DieJPerK,
    double BaseJPerK,
    double FinsJPerK,
    double CaseJPerK,
    double FullFanRpm,
    double FanFromC,
    double FanFullC,
    double LoadW,
    double BoostW,
    double BoostSeconds,
    double IdleW,
    double BoardW,
    double LimitC,
    double FullClockMHz
)
{
    /// <summary>The slowest a fan turns, a share of its fastest.</summary>
    public const double LowestFanShare = 0.35;

    /// <summary>The network with its fan at a share of full speed.</summary>
    public ThermalNetwork Network(double fanShare) =>
        new([DieJPerK, BaseJPerK, FinsJPerK, CaseJPerK], [PasteCPerW, PipesCPerW, FinsCPerW * Math.Pow(fanShare, -0.7), CaseCPerW]);
}

/// <summary>One stretch of a bench protocol.</summary>
/// <param name="Seconds">How long.</param>
/// <param name="Load">0 idle … 1 full.</param>
public sealed record ProtocolStep(double Seconds, double Load);

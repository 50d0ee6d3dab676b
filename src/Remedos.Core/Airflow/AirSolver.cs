using System.Text.Json.Serialization;
using Remedos.Core.Machines;
using Remedos.Core.Physics;
using Remedos.Core.Runs;
using Remedos.Core.SteadyState;

namespace Remedos.Core.Airflow;

/// <summary>What one fan does. Flow m³/h inward; negative blows out.</summary>
/// <param name="Id">Of the plan; “radiator” for all fans of a radiator together, “supply” for the power supply.</param>
/// <param name="Overcome">Whether the air goes through it against its direction.</param>
public sealed record FanState(string Id, double Rpm, double Percent, double InflowM3PerH, bool Overcome);

/// <summary>Whether a case’s fans push more air in than out.</summary>
[JsonConverter(typeof(KebabEnum<AirPressure>))]
public enum AirPressure
{
    /// <summary>More in.</summary>
    MoreIn,

    /// <summary>As much.</summary>
    Balanced,

    /// <summary>More out.</summary>
    MoreOut,
}

/// <summary>A machine at rest with its air and its fans in agreement. °C, m³/h, Pa, dB(A) at 1 m.</summary>
/// <param name="Pressure">Whether the fans push more air in than out.</param>
/// <param name="ProcessorC">Null while its cooler is not known; above the limit it would throttle.</param>
/// <param name="CardC">Null without a card.</param>
/// <param name="LiquidC">Null without a loop.</param>
/// <param name="CoolerRpm">Of the cooler's fans; null without.</param>
/// <param name="Converged">False where the fan curves pull at each other and no speed agrees with them all.</param>
public sealed record AirAnswer(
    double CasePa,
    AirPressure Pressure,
    double ExchangeM3PerH,
    IReadOnlyList<FanState> Fans,
    IReadOnlyList<double> OpeningInflowsM3PerH,
    double CaseAirC,
    double? ProcessorC,
    double? CardC,
    double? LiquidC,
    double? CoolerRpm,
    double NoiseDba,
    bool Converged = true
)
{
    /// <summary>What a fan curve reads that follows this; the next best thing where there is no such sensor.</summary>
    /// <param name="source">Of <see cref="Steering.Sources"/>.</param>
    public double SourceC(string source) => SteadySolver.SourceOf(source, ProcessorC, LiquidC, CardC, CaseAirC);
}

/// <summary>A plan's machine, level: the steady state of its parts, told fan by fan.</summary>
public sealed class AirSolver
{
    /// <summary>So far from the room's pressure is none that a finger would feel, Pa.</summary>
    private const double FeltPa = 0.3;

    private readonly Build _build;
    private readonly CoolerPart? _cooler;
    private readonly AirPlan _plan;
    private readonly HeatMachine _machine;
    private readonly SteadySolver _solver;

    /// <summary>Prepares a plan whose <c>Problem</c> is null.</summary>
    public AirSolver(Build build, CoolerPart? cooler, AirPlan plan)
    {
        (_build, _cooler, _plan) = (build, cooler, plan);
        _machine = HeatMachines.Of(build, cooler, plan);
        _solver = new SteadySolver(_machine);
    }

    /// <summary>The machine, level.</summary>
    /// <param name="load">Of <see cref="AirLoad"/>.</param>
    /// <param name="roomC">Null for the build's room.</param>
    public AirAnswer Solve(string load = AirLoad.Both, double? roomC = null) =>
        Solve(AirLoad.ProcessorW(_build, load), AirLoad.CardW(_build, load), roomC ?? _build.RoomC);

    /// <summary>The machine, level, at given powers.</summary>
    /// <param name="held">A header whose fans turn at a given share instead of by their curve; −1 for none.</param>
    public AirAnswer Solve(double processorW, double cardW, double roomC, int held = -1, double heldShare = 1)
    {
        SteadyLoad load = new(processorW, cardW, roomC, _plan.PanelOff, Held: held, HeldAt: heldShare);
        SteadyResult at = _solver.Solve(load);
        AirState air = _solver.Flows(load, at);
        AirPressure pressure =
            air.CasePa > FeltPa ? AirPressure.MoreIn
            : air.CasePa < -FeltPa ? AirPressure.MoreOut
            : AirPressure.Balanced;
        return new AirAnswer(
            air.CasePa,
            pressure,
            air.ExchangeM3PerH,
            States(air, at),
            air.OpeningInflowsM3PerH,
            at.CaseAirC,
            at.ChipC,
            at.CardC,
            at.LiquidC,
            at.CoolerRpm,
            FanNoise.Dba(_cooler, _plan, _machine, at),
            at.Converged
        );
    }

    /// <summary>From what the processor's temperature under a load is known; null without a cooler.</summary>
    public ExpectedTop? KnownFrom(string load)
    {
        double watts = AirLoad.ProcessorW(_build, load),
            card = AirLoad.CardW(_build, load);
        SteadyResult at = _solver.Solve(new SteadyLoad(watts, card, _build.RoomC, _plan.PanelOff));
        return ExpectedTop.Of(_build, _cooler, _machine, at, watts, card, _build.RoomC);
    }

    private List<FanState> States(AirState air, SteadyResult at)
    {
        List<FanState> states = [];
        // A case of which no fan is known is computed with the usual ones; they are not told.
        for (int i = 0; i < _plan.Fans.Count; i++)
        {
            double share = AirPlans.ShareOf(_plan, _plan.Fans[i].Header, at),
                inflow = air.FanInflowsM3PerH[i];
            states.Add(
                new FanState(
                    _plan.Fans[i].Id,
                    share * _machine.Fans[i].MaxRpm,
                    100 * share,
                    inflow,
                    share > 0.05 && inflow != 0 && inflow > 0 != _machine.Fans[i].Inward
                )
            );
        }

        if (_machine.RadiatorFans > 0)
        {
            double inflow = air.FanInflowsM3PerH.Skip(_machine.RadiatorFrom).Take(_machine.RadiatorFans).Sum();
            states.Add(
                new FanState(
                    "radiator",
                    at.CoolerRpm ?? 0,
                    100 * at.CoolerFanShare,
                    inflow,
                    inflow != 0 && inflow > 0 != _machine.Fans[_machine.RadiatorFrom].Inward
                )
            );
        }

        if (_machine.FanHeaders.Count > 0 && _machine.FanHeaders[^1] == HeatMachine.Supply)
        {
            double supply = air.FanInflowsM3PerH[^1];
            states.Add(
                new FanState("supply", Defaults.SupplyFanShare * FanLaw.Supply.MaxRpm, 100 * Defaults.SupplyFanShare, supply, supply > 0)
            );
        }

        return states;
    }
}

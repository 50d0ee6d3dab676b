using Remedos.Core.HeatPath;
using Remedos.Core.Machines;
using Remedos.Core.Runs;
using Remedos.Core.SteadyState;

namespace Remedos.Core.Matching;

/// <summary>A figure with the ends of its 95 % interval.</summary>
public sealed record Interval(double Value, double Low, double High);

/// <summary>What a cooler will do in a build at the processor's sustained power, the card at work, level.</summary>
/// <param name="Place">Where its radiator hangs; null for an air cooler.</param>
/// <param name="FanRpm">Where its fans settle; null without fans.</param>
/// <param name="HeadroomW">What the chip could draw more until it is at its limit; below 0 it throttles by as much.</param>
/// <param name="CaseAirC">What everything in the case breathes.</param>
/// <param name="HoldsW">What the chip could draw in all.</param>
/// <param name="Converged">Whether its fan curves settle.</param>
/// <param name="GamesC">Of one with which the chip throttles: what a game brings it to, the card at work; null for one that holds.</param>
internal sealed record Prediction(
    string? Place,
    Interval TemperatureC,
    Interval HottestRoomTemperatureC,
    bool Throttles,
    double? FanRpm,
    double NoiseDba,
    double HeadroomW,
    double HoldsW,
    double CaseAirC,
    bool ByClaimAlone,
    bool Converged,
    double? GamesC = null
);

/// <summary>What coolers do in a build: its steady state with each of them, fans and headers as they are in it. Of one thread.</summary>
internal sealed class Predictor(Build build)
{
    private readonly double _card = build.Graphics?.PowerW ?? 0,
        _watts = build.Processor.SustainedPowerW,
        _limit = build.Processor.TemperatureLimitC;

    private readonly double _hottest = Math.Max(build.HottestRoomC ?? build.RoomC, build.RoomC);

    /// <summary>What is the same for all coolers that hang alike.</summary>
    private readonly Dictionary<(string? Place, double? RadiatorMm, bool Liquid, bool Fans, bool IsOn, bool Small), Setting> _settings = [];

    /// <summary>The build round a cooler.</summary>
    /// <param name="Bare">Without it.</param>
    /// <param name="Near">What the headers give with a usual one, where the search for the state with another begins.</param>
    private sealed record Setting(AirPlan Plan, HeatMachine Bare, IReadOnlyList<double> Near);

    private Setting SettingOf(CoolerPart cooler, string? place)
    {
        bool small = HeatMachines.InSmallCase(build, cooler);
        (string?, double?, bool, bool, bool, bool) key = (
            place,
            place is null ? null : cooler.RadiatorSizeMm,
            cooler.IsLiquid,
            cooler.Fans is { Count: > 0 },
            build.IsOn(cooler),
            small
        );
        if (!_settings.TryGetValue(key, out Setting? setting))
        {
            AirPlan plan = AirPlans.Of(build, cooler, place);
            HeatMachine bare = HeatMachines.Without(build, plan, small);
            CoolerPart usual = CoolerPart.OfKind(cooler.IsLiquid ? "liquid" : "tower");
            SteadySolver solver = new(HeatMachines.With(bare, build, usual, new CoolerCurve(usual), plan));
            _settings[key] = setting = new Setting(plan, bare, solver.Solve(new SteadyLoad(_watts, _card, build.RoomC)).Shares);
        }

        return setting;
    }

    /// <summary>Where a radiator hangs: as is said of it, else the coolest of the places where it fits; null for an air cooler.</summary>
    public static string? PlaceOf(Build build, CoolerPart? cooler) =>
        cooler is not { IsLiquid: true } ? null
        : build.RadiatorOf(cooler)?.Place is { } said ? said
        : new Predictor(build).Best(cooler, Fit.Of(build, cooler)).Place;

    /// <summary>
    /// Where it hangs, if that is said of it; else at the coolest of the places where it fits; for one that does not, of all that take a
    /// radiator, so that it can be seen what it would do.
    /// </summary>
    public Prediction Best(CoolerPart cooler, FitResult fit)
    {
        double? most = build.Wants?.MaxNoiseDba;
        if (!cooler.IsLiquid)
        {
            return Of(cooler, null, most);
        }

        if (build.RadiatorOf(cooler) is { } said)
        {
            return Of(cooler, said.Place, most);
        }

        IReadOnlyList<string> places = fit.Places.Count > 0 ? fit.Places : [.. (build.Case?.Radiators ?? []).Select(place => place.Place)];
        CoolerCurve curve = new(cooler);
        return Of(
            cooler,
            (places.Count > 0 ? places : ["top"]).Select(place => LevelOf(cooler, curve, place, most)).MinBy(at => at.Now.ChipC)
        );
    }

    public Prediction Of(CoolerPart cooler, string? place, double? mostDba) =>
        Of(cooler, LevelOf(cooler, new CoolerCurve(cooler), place, mostDba));

    private Prediction Of(CoolerPart cooler, Level at)
    {
        SteadyResult hot = _hottest == build.RoomC ? at.Now : at.Solver.Solve(at.Load with { RoomC = _hottest });
        double holds = HeatMachine.HoldsW(at.Solver, at.Load, at.Now, _limit);
        return new Prediction(
            at.Place,
            Around(at.Machine, at.Now, build.RoomC),
            Around(at.Machine, hot, _hottest),
            at.Now.ChipC > _limit,
            at.Now.CoolerRpm is { } rpm ? Math.Round(rpm) : null,
            FanNoise.Dba(cooler, at.Plan, at.Machine, at.Now),
            holds - _watts,
            holds,
            at.Now.CaseAirC,
            cooler.Performance is not { Count: > 0 },
            at.Now.Converged && hot.Converged,
            at.Now.ChipC > _limit ? at.Solver.Solve(at.Load with { CpuW = Defaults.GameShare * _watts }).ChipC : null
        );
    }

    /// <summary>The build with a cooler at a place, level.</summary>
    private readonly record struct Level(
        string? Place,
        AirPlan Plan,
        HeatMachine Machine,
        SteadySolver Solver,
        SteadyLoad Load,
        SteadyResult Now
    );

    private Level LevelOf(CoolerPart cooler, CoolerCurve curve, string? place, double? mostDba)
    {
        (AirPlan plan, HeatMachine bare, IReadOnlyList<double> near) = SettingOf(cooler, place);
        HeatMachine machine = HeatMachines.With(bare, build, cooler, curve, plan);
        SteadySolver solver = new(machine, near: near);
        SteadyLoad load = new(_watts, _card, build.RoomC);
        SteadyResult now = solver.Solve(load);
        if (mostDba is { } most && FanNoise.Dba(cooler, plan, machine, now) > most)
        {
            // As fast as the owner can bear; where that does not hold the chip, as fast as it must.
            SteadyLoad quiet = load with { CoolerFanAtMost = FanNoise.BearableShare(cooler, plan, machine, now, most) };
            SteadyResult slower = solver.Solve(quiet);
            if (slower.ChipC <= _limit)
            {
                (load, now) = (quiet, slower);
            }
        }

        return new Level(place, plan, machine, solver, load, now);
    }

    private Interval Around(HeatMachine machine, SteadyResult at, double roomC)
    {
        double value = at.ChipC!.Value,
            half = machine.ChipHalfWidthC(at, _watts, roomC);
        return new Interval(value, value - half, value + half);
    }

    /// <summary>The predicted heat path, for the same picture that a run has.</summary>
    public HeatStaircase StaircaseOf(CoolerPart cooler, string? place, double? mostDba)
    {
        (_, AirPlan plan, HeatMachine machine, _, _, SteadyResult at) = LevelOf(cooler, new CoolerCurve(cooler), place, mostDba);
        OperatingPaths paths = at.Paths;
        bool breathesRoom = plan.Cooler?.Inward == true && cooler.IsLiquid;
        (HeatStep Id, string Title, double RiseC)[] steps =
        [
            (HeatStep.CaseAir, "case air to room", breathesRoom ? 0 : at.CaseAirC - build.RoomC),
            (
                HeatStep.Bulk,
                !cooler.IsLiquid ? "fins to case air"
                : breathesRoom ? "radiator to room"
                : "radiator to case air",
                _watts * paths.FinsToAir
            ),
            (HeatStep.Cooler, cooler.IsLiquid ? "block to liquid" : "base to fins", _watts * paths.BaseToFins),
            (HeatStep.Chip, cooler.IsLiquid ? "chip to block" : "chip to base", _watts * paths.DieToBase),
        ];
        List<StaircaseStep> stairs = [];
        double foot = build.RoomC;
        foreach ((HeatStep id, string title, double rise) in steps.Where(step => step.RiseC > 0))
        {
            stairs.Add(new StaircaseStep(id, title, foot, rise, rise / _watts, null, null, null, false));
            foot += rise;
        }

        return new HeatStaircase(build.RoomC, at.ChipC!.Value, _watts, stairs, $"Predicted: {_watts:0} W at {Degrees.At(at.ChipC)}.")
        {
            Expected = ExpectedTop.Of(build, cooler, machine, at, _watts, _card, build.RoomC),
        };
    }
}

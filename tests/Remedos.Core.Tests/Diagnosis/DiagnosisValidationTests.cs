using Remedos.Core.Diagnosis;
using Remedos.Core.Machines;
using Remedos.Core.Runs;
using Remedos.Core.SteadyState;
using Remedos.Validation;

namespace Remedos.Core.Tests.Diagnosis;

/// <summary>
/// The diagnosis on simulated machines, through the doors that the server uses; the large validation is `remedos prove diagnosis`.
/// </summary>
public sealed class DiagnosisValidationTests
{
    /// <summary>
    /// Far below what the large validation shows, so that sixty machines cannot miss it by chance, and far above guessing.
    /// </summary>
    [Theory]
    [InlineData(true, 0.75)]
    [InlineData(false, 0.6)]
    public void Faults_of_machines_never_seen_before_are_found_and_in_fewer_minutes_than_in_a_fixed_order(bool byParts, double right)
    {
        DiagnosisReport report = DiagnosisValidation.Run(60, seed: 9000, byParts);
        Assert.True(report.Accuracy.Single(one => one.Evidence == "all").TopOne > right);
        Assert.True(report.Policies[0].Minutes < 0.7 * report.Policies[1].Minutes);
        Assert.True(report.Accuracy[0].SoundAccused < 0.25);
    }

    /// <summary>Half of the sound machines of the library used to be called faulty.</summary>
    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public void Sound_machines_of_the_library_are_accused_of_nothing(bool byParts)
    {
        string[] accused =
        [
            .. MachineLibrary
                .Machines.Where(spec => spec.Id != "box-cooler-chiplet")
                .Select(spec => Case(spec.Id, [], byParts))
                .Select(simulated => Diagnoser.Of(new DiagnosisCase(simulated.Machine, simulated.OfRuns)))
                .Where(answer => answer.Causes[0].Probability >= 0.5)
                .Select(answer => answer.Causes[0].Id),
        ];
        Assert.Empty(accused);
    }

    /// <summary>Slow fans, a game, a cap, an open side and a card at work are conditions, and no faults.</summary>
    [Theory]
    [InlineData("fans-full-drop")]
    [InlineData("capped-power")]
    [InlineData("panel-off-drop")]
    [InlineData("gpu-hot")]
    public void A_sound_machine_run_otherwise_shows_nothing(string run)
    {
        foreach (string id in new[] { "home-tower", "boat-station", "bedroom-tower" })
        {
            SimulatedCase sound = Case(id, [], byParts: true);
            sound.Make(run);
            Assert.Equal("none", sound.OfRuns.Single(item => item.Id == "swollen-band").State);
            Assert.Equal("normal", sound.OfRuns.Single(item => item.Id == "resistance-ratio").State);
            Assert.DoesNotContain(sound.OfRuns, item => item.State is "large" or "still-hot" or "core" or "short" or "stands");
        }
    }

    private static SimulatedCase Case(string id, Dictionary<string, double> faults, bool byParts = true)
    {
        BenchMachine spec = MachineLibrary.Machines.Single(one => one.Id == id);
        CaseMachine told = new(spec.Cooler.Kind, 30, false, "home", HasCard: spec.Graphics is not null);
        return new SimulatedCase(new DrawnMachine(spec, spec, HeatMachines.Of(spec), told, faults), byParts, seed: 5);
    }

    /// <summary>What runs show of a fault, read like any log.</summary>
    [Theory]
    [InlineData("home-tower", "paste-aged", 0.9, "swollen-band", "chip")]
    [InlineData("home-tower", "dust-blocked-fins", 0.8, "swollen-band", "bulk")]
    [InlineData("boat-station", "loop-restricted", 0.9, "swollen-band", "cooler")]
    [InlineData("home-tower", "poor-contact", 0.7, "core-spread", "wide")]
    [InlineData("home-tower", "background-load", 0.6, "idle-load", "busy")]
    [InlineData("home-tower", "power-excess", 0.6, "power-vs-rated", "far-above")]
    [InlineData("home-tower", "power-limited", 0.6, "power-plateau", "deep")]
    [InlineData("home-tower", "clock-held", 0.8, "clock-pinned", "yes")]
    [InlineData("home-tower", "fan-failed", 1, "fan-response", "stopped")]
    [InlineData("boat-station", "pump-failed", 1, "pump-speed", "zero")]
    [InlineData("boat-station", "pump-failed", 0.9, "flow", "hardly")]
    [InlineData("home-tower", "sensor-misread", 0.8, "idle-rise", "high")]
    [InlineData("render-dual-tower", "case-starved", 0.6, "case-air", "high")]
    [InlineData("render-dual-tower", "case-starved", 0.9, "case-fans", "slow-while-hot")]
    [InlineData("render-dual-tower", "paste-aged", 0.9, "case-fans", "turn")]
    [InlineData("bakery-till", "case-starved", 0.9, "case-fans", null)]
    [InlineData("bedroom-tower", "case-starved", 0.9, "panel-off-drop", "large")]
    [InlineData("survey-workstation", "fan-control", 1, "fans-full-drop", "large")]
    [InlineData("home-tower", "fan-failed", 0.6, "fan-at-full", "short")]
    [InlineData("home-tower", "paste-aged", 0.9, "known-good-cooler", "fixed")]
    [InlineData("home-tower", "poor-contact", 0.9, "capped-power", "still-hot")]
    [InlineData("bedroom-tower", "gpu-cooling", 0.9, "gpu-hot", "core-at-limit")]
    public void A_fault_shows_where_it_should(string machine, string fault, double severity, string evidence, string? state)
    {
        SimulatedCase simulated = Case(machine, new Dictionary<string, double> { [fault] = severity });
        simulated.Make(evidence);
        Assert.Equal(state, simulated.OfRuns.FirstOrDefault(item => item.Id == evidence)?.State);
    }

    /// <summary>
    /// The bench's own cooler stands in the same case: what that case does to it is no cure, nor is it one to take a sound cooler off.
    /// </summary>
    [Theory]
    [InlineData("home-tower")]
    [InlineData("render-dual-tower")]
    [InlineData("choir-recorder")]
    [InlineData("bedroom-tower")]
    [InlineData("boat-station")]
    [InlineData("survey-workstation")]
    public void A_lent_cooler_cures_no_sound_machine(string id)
    {
        SimulatedCase sound = Case(id, []);
        sound.Make("known-good-cooler");
        Assert.Equal("same", sound.OfRuns.Single(item => item.Id == "known-good-cooler").State);
    }

    /// <summary>What the log says of the case's fans is a condition of the run, and named among what the expected is from.</summary>
    [Fact]
    public void Logged_case_fans_are_named_among_the_sources()
    {
        Assert.Contains(Case("home-tower", []).Runs[0].Expected!.Reference.Sources, source => source.Contains("case fans at "));
        Assert.DoesNotContain(Case("choir-recorder", []).Runs[0].Expected!.Reference.Sources, source => source.Contains("rpm"));
    }

    /// <summary>Between the limit and the half-width above it the sum is no more than a leaning.</summary>
    [Theory]
    [InlineData(12, "holds")]
    [InlineData(2, "near")]
    [InlineData(-1, "over")]
    [InlineData(-12, "far-over")]
    public void The_sum_is_held_against_its_own_half_width(double belowC, string state)
    {
        SeenRun seen = Case("home-tower", []).Runs[0];
        Expected rated = seen.Expected!.State.AtRatedC!.Value;
        SeenRun there = seen with
        {
            Run = seen.Run with { Limits = belowC < 3 ? [new Limit(LimitKind.Thermal, 400, 0.6, 10, null)] : [] },
            Conditions = seen.Conditions with { TemperatureLimitC = rated.Value + belowC },
        };
        Assert.InRange(rated.HalfWidth, 2, 11);
        Assert.Equal(state, RunEvidence.Of(there, null).Single(item => item.Id == "too-small-by-sum").State);
    }

    /// <summary>What held its rated watts clear of its limit is not too small, however small its catalogue makes it.</summary>
    [Theory]
    [InlineData(1, "auto", "holds")]
    [InlineData(0.8, "auto", "over")]
    [InlineData(1, "fixed", "over")]
    public void A_run_that_held_its_rated_watts_goes_before_the_sum(double share, string fans, string state)
    {
        SeenRun seen = Case("home-tower", []).Runs[0];
        LoadFigures load = seen.Run.Load!;
        double rated = seen.Expected!.State.AtRatedC!.Value.Value;
        SeenRun cool = seen with
        {
            Run = seen.Run with { Load = load with { SustainedTemperatureC = rated - 15, Settled = true } },
            Conditions = seen.Conditions with
            {
                TemperatureLimitC = rated - 1,
                RatedPowerW = load.SustainedPowerW / share,
                FanPolicy = fans,
            },
        };
        Assert.Equal(state, RunEvidence.Of(cool, null).Single(item => item.Id == "too-small-by-sum").State);
    }

    /// <summary>A cooler that would not hold its chip even sound is too small by a sum, whatever else is seen.</summary>
    [Fact]
    public void Too_small_is_told_by_the_expected_temperature_at_the_rated_watts()
    {
        Assert.Equal("holds", Case("home-tower", []).OfRuns.Single(item => item.Id == "too-small-by-sum").State);
        SimulatedCase box = Case("box-cooler-chiplet", []);
        Assert.Equal("over", box.OfRuns.Single(item => item.Id == "too-small-by-sum").State);
        Assert.Equal(DrawnMachine.TooSmall, Diagnoser.Of(new DiagnosisCase(box.Machine, box.OfRuns)).Causes[0].Id);
        // Without its parts nobody can do the sum.
        Assert.DoesNotContain(Case("box-cooler-chiplet", [], byParts: false).OfRuns, item => item.Id == "too-small-by-sum");
    }

    /// <summary>A cool room tells of a hot one only where the machine was at its limit and the room is another (C11).</summary>
    [Theory]
    [InlineData(32, 20, true, false, "follows-room")]
    [InlineData(32, 20, true, true, "same")]
    [InlineData(24, 20, false, false, null)]
    [InlineData(28, 28, true, false, null)]
    [InlineData(26, 20, true, false, null)]
    public void A_cool_room_is_held_against_the_room_before(double was, double now, bool limitedBefore, bool limitedAfter, string? state)
    {
        SeenRun Seen(double room, bool limited)
        {
            SeenRun sound = Case("home-tower", []).Runs[0];
            return sound with
            {
                Run = sound.Run with { AmbientC = room, Limits = limited ? [new Limit(LimitKind.Thermal, 400, 0.6, 10, null)] : [] },
            };
        }

        Assert.Equal(state, TrialEvidence.Of("cooler-room", Seen(was, limitedBefore), Seen(now, limitedAfter))?.State);
    }
}

using Remedos.Core.Diagnosis;
using Remedos.Core.Machines;
using Remedos.Core.Practice;
using Remedos.Core.Simulation;

namespace Remedos.Core.Tests.Practice;

/// <summary>What is drawn: cases are what their level says, the same from the same seed, and told by the reviewed tables.</summary>
public sealed class PracticeCaseTests
{
    private const int Seeds = 150;

    private static readonly Lazy<PracticeCase[]> Many = new(() =>
        [.. Enumerable.Range(0, 2500).AsParallel().AsOrdered().Select(seed => PracticeCase.Draw(PracticeLevel.All[1], seed))]
    );

    public static TheoryData<int> Levels => [.. PracticeLevel.All.Select(level => level.Number)];

    [Theory]
    [MemberData(nameof(Levels))]
    public void A_case_is_what_its_level_says(int number)
    {
        PracticeLevel level = PracticeLevel.Of(number)!;
        PracticeCase[] cases = [.. Enumerable.Range(0, Seeds).Select(seed => PracticeCase.Draw(level, seed))];
        Assert.All(cases, one =>
        {
            Assert.True(one.Faults.Count <= level.Faults);
            Assert.True(level.SoundShare > 0 || one.Faults.Count == level.Faults);
            Assert.All(one.Faults.Values, severity => Assert.InRange(severity, level.LeastSeverity, 1));
            // Two faults are two repairs, and each can be in such a machine.
            Assert.Distinct(one.Faults.Keys.Select(cause => DiagnosisTables.CauseOf(cause).Repair));
            Assert.All(one.Faults.Keys.Select(DiagnosisTables.CauseOf), cause =>
                Assert.True(cause.CoolerKinds?.Contains(one.Machine.Cooler.Kind) ?? true)
            );
            Assert.Equal(level.Tells == OwnerTells.Misleadingly, one.Theory is not null);
            Assert.False(one.Theory is { } theory && one.Faults.ContainsKey(theory));
            // A cooler that is too small is so by its part; any other holds what it is there for.
            double rated = FeltFaults.AtRatedC(one.Machine, one.Machine.RoomC);
            Assert.Equal(one.Faults.ContainsKey(FeltFaults.TooSmall), rated > one.Machine.Processor.TemperatureLimitC);
        });
        Assert.True(cases.Select(one => one.Row.Id).Distinct().Count() > 6);
        if (level.SoundShare > 0)
        {
            // Binomial, 150 at a quarter: outside of this once in ten thousand.
            Assert.InRange(cases.Count(one => one.Faults.Count == 0), 18, 60);
        }
        else
        {
            Assert.True(cases.SelectMany(one => one.Faults.Keys).Distinct().Count() > 10);
        }
    }

    [Fact]
    public void The_same_seed_is_the_same_case_and_another_is_another()
    {
        PracticeLevel level = PracticeLevel.All[1];
        Assert.Equal(PracticeCase.Draw(level, 77).Check, PracticeCase.Draw(level, 77).Check);
        string[] checks = [.. Enumerable.Range(0, 60).Select(seed => PracticeCase.Draw(level, seed).Check)];
        Assert.Distinct(checks);
        // Neighbours must not draw alike: the causes of seeds in a row are not runs of one cause.
        string[] causes = [.. Enumerable.Range(0, 60).Select(seed => PracticeCase.Draw(level, seed).Faults.Keys.Single())];
        Assert.InRange(causes.Zip(causes.Skip(1)).Count(pair => pair.First == pair.Second), 0, 22);
    }

    [Fact]
    public void A_file_brings_the_case_back_and_does_not_say_what_is_wrong()
    {
        PracticeCase practice = PracticeCase.Draw(PracticeLevel.All[3], 4711);
        string text = System.Text.Json.JsonSerializer.Serialize(PracticeFile.Of(practice), System.Text.Json.JsonSerializerOptions.Web);
        Assert.All(practice.Faults.Keys, cause => Assert.DoesNotContain(cause, text, StringComparison.Ordinal));
        PracticeCase? read = PracticeFile.Read(text, out string? problem);
        Assert.Null(problem);
        Assert.Equal(practice.Check, read!.Check);
        Assert.Equal(practice.Faults, read.Faults);
    }

    [Theory]
    [InlineData("", "no practice case")]
    [InlineData("[]", "no practice case")]
    [InlineData("{\"level\":1}", "no practice case")]
    [InlineData("{\"remedosPractice\":1,\"level\":\"one\",\"seed\":1}", "no practice case")]
    [InlineData("{\"remedosPractice\":2,\"level\":1,\"seed\":1}", "version 2")]
    [InlineData("{\"remedosPractice\":1,\"level\":9,\"seed\":1}", "no level 9")]
    [InlineData("{\"remedosPractice\":1,\"level\":1,\"seed\":-1}", "between 0 and")]
    [InlineData("{\"remedosPractice\":1,\"level\":1,\"seed\":1,\"check\":\"00000000\"}", "another version")]
    public void A_file_that_cannot_be_is_refused_with_a_sentence(string text, string expected)
    {
        Assert.Null(PracticeFile.Read(text, out string? problem));
        Assert.Contains(expected, problem!, StringComparison.Ordinal);
    }

    /// <summary>Over many cases with one cause, what is told comes as often as the reviewed table has it for that cause alone.</summary>
    [Theory]
    [InlineData("paste-aged", "onset", "gradual")]
    [InlineData("dust-blocked-fins", "dust", "heavy")]
    [InlineData("fan-failed", "noise-grinding", "yes")]
    [InlineData("poor-contact", "screws-loose", "yes")]
    public void What_is_told_comes_as_often_as_the_table_has_it(string cause, string evidence, string state)
    {
        EvidenceRow row = DiagnosisTables.EvidenceOf(evidence)!;
        double expected = row.Effects[cause].P![row.Telling.ToList().IndexOf(state)];
        string[] told =
        [
            .. Many
                .Value.Where(one => one.Faults.ContainsKey(cause))
                .Select(one => new Witness(one).Tell(evidence)?.State)
                .OfType<string>(),
        ];
        Assert.True(told.Length > 60, $"{told.Length}");
        double share = told.Count(one => one == state) / (double)told.Length,
            spread = Math.Sqrt(expected * (1 - expected) / told.Length);
        Assert.InRange(share, expected - (4 * spread) - 0.01, expected + (4 * spread) + 0.01);
    }

    [Fact]
    public void An_answer_hangs_on_the_question_alone_and_a_misled_owner_speaks_for_the_theory()
    {
        PracticeCase practice = Enumerable
            .Range(0, 200)
            .Select(seed => PracticeCase.Draw(PracticeLevel.All[2], seed))
            .First(one => one.Theory == "dust-blocked-fins");
        string[] rows = [.. DiagnosisTables.Evidence.Where(row => Witness.CanTell(practice, row)).Select(row => row.Id)];
        Witness forward = new(practice),
            backward = new(practice);
        EvidenceItem?[] one = [.. rows.Select(forward.Tell)];
        EvidenceItem?[] other = [.. rows.Reverse().Select(backward.Tell).Reverse()];
        Assert.Equal(one, other);
        Assert.True(forward.Tell("onset") is null or { State: "gradual" });
        Assert.Contains("dust", practice.Story, StringComparison.Ordinal);
        // What is measured, and what this machine has not, nobody tells.
        Assert.Null(forward.Tell("resistance-ratio"));
        Assert.Equal(practice.Machine.Cooler.IsLiquid, forward.Tell("tube-difference") is not null);
    }

    /// <summary>Who has blown it out sees no dust any more, the harmless included.</summary>
    [Fact]
    public void A_cleaned_machine_shows_no_dust()
    {
        PracticeCase dusty = Many.Value.First(one =>
            !one.Faults.ContainsKey("dust-blocked-fins") && new Witness(one).Tell("dust")!.State != "none"
        );
        PracticeStand cleaned = PracticeStand.Fresh.Repaired(dusty, "clean").After!;
        Assert.Equal("none", cleaned.Asked(dusty, "dust").After!.Told.Single().State);
    }

    [Fact]
    public void Tubes_feel_as_the_loop_flows()
    {
        PracticeCase blocked = Enumerable
            .Range(0, 400)
            .Select(seed => PracticeCase.Draw(PracticeLevel.All[0], seed))
            .First(one => one.Faults.ContainsKey("pump-failed"));
        Assert.NotEqual("even", new Witness(blocked).Tell("tube-difference")!.State);
        Assert.Equal("even", new Witness(blocked, ["pump-failed"]).Tell("tube-difference")!.State);
        Assert.Contains(MachineLibrary.Coolers, cooler => cooler.Id == blocked.Row.Cooler && cooler.Part.IsLiquid);
    }
}

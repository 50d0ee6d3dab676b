using Remedos.Core.Diagnosis;

namespace Remedos.Core.Tests.Diagnosis;

/// <summary>What the workshop has found in a series moves where the odds begin, as far as it is enough to say.</summary>
public sealed class SeriesRecordTests
{
    private static SeriesRecord Pumps(int failed, int machines) =>
        new("Rill 240", machines, new Dictionary<string, int> { ["pump-failed"] = failed });

    private static double Prior(SeriesRecord? series, string cause = "pump-failed") =>
        Diagnoser
            .Of(new DiagnosisCase(new CaseMachine("liquid", 24, Series: series), []))
            .Causes.Single(one => one.Id == cause)
            .Probability;

    [Fact]
    public void Few_machines_tell_nothing_and_many_tell_what_they_are()
    {
        Assert.Equal(Prior(null), Prior(Pumps(4, 4)), 12);
        Assert.InRange(Prior(Pumps(4, 8)), Prior(null), 0.5);
        Assert.InRange(Prior(Pumps(400, 1000)), 0.37, 0.42);
        Assert.True(Prior(Pumps(0, 40)) < Prior(null));
        Assert.True(Prior(Pumps(6, 8)) > Prior(Pumps(5, 8)));
    }

    [Fact]
    public void What_cannot_be_stays_so() =>
        Assert.DoesNotContain(Diagnoser.Of(new DiagnosisCase(new CaseMachine("tower", Series: Pumps(6, 8)), [])).Causes, cause =>
            cause.Id == "pump-failed"
        );

    [Fact]
    public void It_is_said()
    {
        Assert.Contains(
            "8 machines with Rill 240: pump stopped or barely turning in 6",
            Assert.Single(Diagnoser.Of(new DiagnosisCase(new CaseMachine("liquid", Series: Pumps(6, 8)), [])).Notes),
            StringComparison.Ordinal
        );
        Assert.Empty(Diagnoser.Of(new DiagnosisCase(new CaseMachine("liquid", Series: Pumps(4, 4)), [])).Notes);
    }

    [Fact]
    public void Records_that_cannot_be_are_refused()
    {
        string? Problem(SeriesRecord series) => new DiagnosisCase(new CaseMachine(Series: series), []).Problem();
        Assert.Null(Problem(Pumps(3, 3)));
        Assert.Equal("machine.series: “pump-failed” in 4 of 3 machines cannot be.", Problem(Pumps(4, 3)));
        Assert.Equal(
            "machine.series: there is no cause “gremlins”.",
            Problem(new SeriesRecord("Rill", 3, new Dictionary<string, int> { ["gremlins"] = 1 }))
        );
    }

    /// <summary>What was done last moves the odds the way a technician would.</summary>
    [Theory]
    [InlineData("repasted", "paste-aged", "poor-contact")]
    [InlineData("cleaned", "dust-blocked-fins", "fan-reversed")]
    [InlineData("moved", null, "room-hot")]
    [InlineData("firmware", null, "fan-control")]
    [InlineData("part-added", null, "cooler-undersized")]
    public void What_was_done_last_moves_the_odds(string done, string? less, string more)
    {
        double Of(string cause, string? last) =>
            Diagnoser
                .Of(new DiagnosisCase(new CaseMachine("tower", 24, LastDone: last), []))
                .Causes.Single(one => one.Id == cause)
                .Probability;
        Assert.True(Of(more, done) > Of(more, null));
        Assert.True(less is null || Of(less, done) < Of(less, null));
    }
}

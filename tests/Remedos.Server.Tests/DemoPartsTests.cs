using Remedos.Core.Airflow;
using Remedos.Core.Machines;
using Remedos.Core.Matching;
using Remedos.Core.Parts;
using Remedos.Server.Demo;

namespace Remedos.Server.Tests;

/// <summary>The demo's library: enough of everything, and nothing in it that contradicts itself or the rest.</summary>
public sealed class DemoPartsTests
{
    private static DemoParts.Row[] Of(string kind) => [.. DemoParts.Shelf.Where(row => row.Kind == kind)];

    private static CoolerPart[] Coolers => [.. Of(PartKind.Cooler).Select(row => row.Cooler! with { Id = row.Name, Name = row.Name })];

    [Theory]
    [InlineData(PartKind.Cooler, 40)]
    [InlineData(PartKind.Processor, 20)]
    [InlineData(PartKind.Case, 20)]
    [InlineData(PartKind.Board, 10)]
    [InlineData(PartKind.Graphics, 8)]
    [InlineData(PartKind.Fan, 10)]
    [InlineData(PartKind.Memory, 6)]
    public void There_is_enough_of_everything(string kind, int least)
    {
        Assert.True(Of(kind).Length >= least, $"{Of(kind).Length} of {kind}");
        Assert.Equal(Of(kind).Length, Of(kind).Select(row => row.Name.ToUpperInvariant()).Distinct().Count());
        Assert.All(Of(kind), row => Assert.Null(row.Values.Problem(kind)));
    }

    [Fact]
    public void Every_kind_of_cooler_is_there_and_none_contradicts_itself()
    {
        Assert.Equal(Core.Machines.CoolerPart.Kinds.Order(), Coolers.Select(cooler => cooler.Kind).Distinct().Order());
        Assert.All(Coolers, cooler => Assert.Null(cooler.Contradiction()));
        Assert.Contains(Coolers, cooler => cooler.Performance is not { Count: > 0 } && cooler.ClaimedW is not null);
    }

    /// <summary>Whoever has a processor finds a board for it, and several coolers.</summary>
    [Fact]
    public void Every_processor_has_boards_and_coolers()
    {
        string[] sockets = [.. Of(PartKind.Processor).Select(row => row.Processor!.Socket!).Distinct()];
        Assert.True(sockets.Length >= 4, string.Join(", ", sockets));
        Assert.All(sockets, socket =>
        {
            Assert.Contains(Of(PartKind.Board), row => row.Board!.Socket == socket);
            Assert.True(Coolers.Count(cooler => cooler.Sockets!.Contains(socket)) >= 2, socket);
            Assert.Contains(SocketPattern.All, pattern => pattern.Id == socket);
        });
        Assert.All(Of(PartKind.Board), row => Assert.Contains(row.Board!.Socket, sockets));
    }

    /// <summary>A case's own fans go where it takes fans, and a machine in it begins with a plan that goes in.</summary>
    [Fact]
    public void Every_case_takes_its_own_fans()
    {
        ProcessorPart Chip(string name) => Of(PartKind.Processor).Single(row => row.Name == name).Processor!;
        Assert.All(Of(PartKind.Case), row =>
        {
            // Nobody puts more than a small chip into a case as flat as a hand.
            Build build = new(
                Chip(row.Case!.HeightMm < 100 ? "Lintel L45" : "Corbel C65"),
                Of(PartKind.Board)[0].Board,
                null,
                row.Case,
                FansFollow: "board"
            );
            AirPlan plan = AirPlanner.Start(build, null);
            Assert.Null(plan.Problem());
            Assert.Empty(AirPlanner.Findings(build, null, plan));
            AirAnswer air = new AirSolver(build, null, plan).Solve();
            Assert.InRange(air.CaseAirC - build.RoomC, 0.5, 25);
        });
    }

    /// <summary>
    /// Whoever pays for a longer radiator of one series gets a cooler chip at equal speed; and no chip melts under the best of its coolers.
    /// </summary>
    [Fact]
    public void Longer_radiators_of_a_series_cool_better_and_the_best_hold_every_chip()
    {
        foreach (
            IGrouping<string, CoolerPart> series in Coolers
                .Where(cooler => cooler.Kind == "liquid" && cooler.Name.Split(' ').Length == 2 && cooler.Performance is { Count: > 1 })
                .GroupBy(cooler => cooler.Name.Split(' ')[0])
        )
        {
            double[] resistances =
            [
                .. series
                    .OrderBy(cooler => cooler.RadiatorSizeMm)
                    .Select(cooler => cooler.Performance!.MinBy(point => point.Rpm)!.ResistanceCPerW),
            ];
            Assert.Equal(resistances.OrderDescending(), resistances);
        }

        CasePart large = Of(PartKind.Case).MaxBy(row => row.Case!.MaxCoolerHeightMm ?? 0)!.Case!;
        Assert.All(Of(PartKind.Processor), row =>
        {
            BoardPart board = Of(PartKind.Board).First(one => one.Board!.Socket == row.Processor!.Socket).Board!;
            MatchAnswer answer = Matcher.Match(
                new Build(row.Processor!, board with { HeatSinks = null }, new MemoryPart(31), large, RoomC: 22),
                Coolers
            );
            Assert.Contains(answer.Candidates, one => one is { Fits: true, Throttles: false });
        });
    }
}

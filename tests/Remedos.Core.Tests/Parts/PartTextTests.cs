using Remedos.Core.Machines;
using Remedos.Core.Parts;
using Remedos.Core.Tests.Matching;

namespace Remedos.Core.Tests.Parts;

/// <summary>Parts as cells of a table, there and back, and what is said of cells that say nothing.</summary>
public sealed class PartTextTests
{
    private static readonly (string Kind, PartValues Values)[] Examples =
    [
        (
            PartKind.Processor,
            new PartValues(Processor: MatchingExample.Build.Processor with { Unlocked = true, BoxCooler = "Sill box cooler" })
        ),
        (PartKind.Board, new PartValues(Board: MatchingExample.Build.Board! with { HeatSinks = [new(HeatSink.Rear, 45, 38)], Name = "x" })),
        (
            PartKind.Case,
            new PartValues(
                Case: MatchingExample.Build.Case! with
                {
                    FanPlaces = [new("front", [120, 140], 3)],
                    Obstacles = [CaseObstacle.OwnFans],
                    Name = "x",
                }
            )
        ),
        (PartKind.Cooler, new PartValues(Cooler: MatchingExample.Tower with { Id = "", HoseMm = 320.5 })),
        (PartKind.Fan, new PartValues(Fan: new FanPart(120, 1500, 400, 0.2, 31.5, 1900))),
    ];

    [Fact]
    public void What_is_written_is_read_again()
    {
        foreach ((string kind, PartValues values) in Examples)
        {
            IReadOnlyDictionary<string, string> cells = PartText.Cells(kind, values);
            PartValues read = PartText.Read(kind, "x", cells, out IReadOnlyList<string> problems);
            Assert.Empty(problems);
            Assert.Equal(cells, PartText.Cells(kind, read));
        }

        Assert.Equal("CPU:1:cpu; PUMP:2:full", PartText.Cells(PartKind.Board, Examples[1].Values)["headers"]);
        Assert.Equal("120:400:1600:0.2:34", PartText.Cells(PartKind.Cooler, Examples[3].Values)["fans"]);
        PartValues board = PartText.Read(
            PartKind.Board,
            "x",
            new Dictionary<string, string> { ["headers"] = " CPU : 1,5 ; FAN:0.7:full" },
            out _
        );
        Assert.Equal([new Header("CPU", 1.5), new Header("FAN", 0.7, "full")], board.Board!.Headers!);
    }

    /// <summary>Every field of the list is a property that is really there: a cell that is written comes back.</summary>
    [Fact]
    public void Every_field_of_the_list_is_known_to_the_parts()
    {
        string Example(PartField field) =>
            field.Type switch
            {
                "rows" => string.Join(":", field.Of!.Select(Example)),
                "choice" => field.Choices![0],
                "texts" => field.Choices is null ? "Q4 Q5" : field.Choices[0],
                "numbers" => "120/140",
                "yes-no" => "yes",
                "text" => "Q4",
                _ => field.Name switch
                {
                    "maxRpm" => "1500",
                    "rpm" => "900",
                    "minRpm" => "400",
                    "count" => "3",
                    _ when field.Unit == "A" => "0.3",
                    _ when field.Unit == "°C/W" => "0.2",
                    "usefulPowerW" => "130",
                    _ when field.Unit == "mm" => "120",
                    _ => "60",
                },
            };
        foreach (PartKindFields kind in PartFields.All)
        {
            Dictionary<string, string> cells = kind.Fields.ToDictionary(
                field => field.Name,
                field =>
                    field.Name switch
                    {
                        "heightMm" when kind.Kind is PartKind.Memory => "44",
                        "fanCanRiseMm" => "10",
                        "backPlateMm" => "4",
                        "hoseMm" => "300",
                        _ => Example(field),
                    }
            );
            PartValues read = PartText.Read(kind.Kind, "x", cells, out IReadOnlyList<string> problems);
            Assert.Empty(problems);
            Assert.Equal(cells.Keys.Order(), PartText.Cells(kind.Kind, read).Keys.Order());
        }
    }

    [Theory]
    [InlineData(PartKind.Fan, "sizeMm", "wide", "sizeMm: “wide” is no number.")]
    [InlineData(PartKind.Fan, "priceMinor", "19.5", "priceMinor: “19.5” is no whole number.")]
    [InlineData(PartKind.Cooler, "kind", "magic", "kind: “magic” is none of down-draught, tower")]
    [InlineData(PartKind.Cooler, "fans", "120:400:1600:0.2", "fans[1].noiseAtMaxDba: it is missing in “120:400:1600:0.2”.")]
    [InlineData(
        PartKind.Cooler,
        "performance",
        "900:0.2:7",
        "performance[1]: “900:0.2:7” has 3 entries; at most 2 are known: rpm:resistanceCPerW."
    )]
    [InlineData(PartKind.Cooler, "heightMm", "9000", "heightMm: 9000 is outside 10 to 300 mm.")]
    [InlineData(PartKind.Case, "fans", "rear:sideways:120:900", "fans[1].direction: “sideways” is none of in, out.")]
    [InlineData(PartKind.Board, "colour", "black", "colour: a board has no such field.")]
    [InlineData(PartKind.Processor, "unlocked", "perhaps", "unlocked: “perhaps” is neither yes nor no.")]
    [InlineData(PartKind.Processor, "sustainedPowerW", "", "sustainedPowerW: it is missing, and a processor says nothing without it.")]
    public void Cells_that_say_nothing_are_told(string kind, string field, string text, string sentence)
    {
        Dictionary<string, string> cells = kind switch
        {
            PartKind.Fan => new() { ["sizeMm"] = "120", ["maxRpm"] = "1500" },
            PartKind.Cooler => new() { ["kind"] = "tower" },
            PartKind.Processor => new() { ["sustainedPowerW"] = "65", ["temperatureLimitC"] = "95" },
            _ => [],
        };
        cells[field] = text;
        PartText.Read(kind, "x", cells, out IReadOnlyList<string> problems);
        Assert.Contains(sentence, Assert.Single(problems), StringComparison.Ordinal);
    }
}

using Remedos.Core.Diagnosis;
using Remedos.Core.Jobs;
using Remedos.Core.Learning;
using Remedos.Core.Machines;
using Remedos.Core.Matching;
using Remedos.Core.Money;
using Remedos.Core.Repair;

namespace Remedos.Core.Options;

/// <summary>What options hang on. Null is what is not known.</summary>
public sealed record OptionFacts
{
    /// <summary>The machine, whose problem is null.</summary>
    public required Build Build { get; init; }

    /// <summary>The cooler that is on it, from the workshop's parts; null where it is not among them.</summary>
    public CoolerPart? Cooler { get; init; }

    /// <summary>Coolers held against it.</summary>
    public required MatchAnswer Match { get; init; }

    /// <summary>Null while nothing was observed.</summary>
    public DiagnosisAnswer? Diagnosis { get; init; }

    /// <summary>Which way is advised: the same word as on every other page.</summary>
    public required Decision Decision { get; init; }

    /// <summary>What steps, and so minutes, hang on.</summary>
    public required RepairFacts Machine { get; init; }

    /// <summary>What the workshop asks.</summary>
    public required Rates Rates { get; init; }

    /// <summary>Its own run; null without one that tells of it as it stands.</summary>
    public SeenRun? Seen { get; init; }

    /// <summary>Whether it was changed since it was last measured: nothing is known of it as it stands.</summary>
    public bool ChangedSince { get; init; }

    /// <summary>Its air as planned; null for none.</summary>
    public AirPlan? Planned { get; init; }

    /// <summary>Null where none was noted.</summary>
    public Warranty? Warranty { get; init; }

    /// <summary>The day at the workshop.</summary>
    public DateOnly Today { get; init; }

    /// <summary>quiet, cheap, fast, lasting or looks.</summary>
    public string? Wish { get; init; }

    /// <summary>What this workshop has found in machines with the same cooler.</summary>
    public SeriesRecord? Series { get; init; }

    /// <summary>How long coolers like the one that is on it last here; null where nothing was seen.</summary>
    public SeriesWear? Wear { get; init; }

    /// <summary>What this workshop has seen of a cooler, by its name; null for nothing.</summary>
    public Func<string, SeenHere?> SeenHere { get; init; } = _ => null;

    /// <summary>Parts may cost so much of the chip's price, %; null for no limit.</summary>
    public double? MostPriceSharePercent { get; init; }
}

/// <summary>Puts the options of a machine side by side (docs/science.md, “Options”).</summary>
public static class RepairOptions
{
    /// <summary>All options of a machine.</summary>
    public static OptionAnswer Of(OptionFacts facts)
    {
        OptionDesk desk = new(facts);
        RepairOption[] all = [.. OptionRow.All.Select(desk.Of).OfType<RepairOption>()];
        RepairOption[] open = [.. all.Where(option => option.WhyNot is null)];
        string advised = facts.Decision.Advised switch
        {
            DecisionRoute.Cooler => OptionRow.AnotherCooler,
            DecisionRoute.Cap => OptionRow.CapPower,
            DecisionRoute.Repair => open.FirstOrDefault(option => ActOf(option) == desk.Lead?.Repair)?.Id ?? OptionRow.Leave,
            _ => OptionRow.Leave,
        };
        return new OptionAnswer(
            [
                .. open.OrderBy(option => option.Id != advised)
                    .ThenBy(Class)
                    .ThenBy(option => Key(option, facts.Wish))
                    .ThenBy(option => -(option.Works ?? 0)),
            ],
            [.. all.Where(option => option.WhyNot is not null)],
            advised,
            facts.Decision.Sentence,
            desk.NowC,
            desk.Held,
            AirLoad.CardW(facts.Build, AirLoad.Both)
        );
    }

    private static string? ActOf(RepairOption option) => OptionRow.All.Single(row => row.Id == option.Id).Act;

    /// <summary>First what probably ends the matter, then what may, last what leaves it.</summary>
    private static int Class(RepairOption option) =>
        option.Id == OptionRow.Leave ? 2
        : option.Id == OptionRow.WarrantyClaim ? 0
        : option.TooDear || option.Works is null or < 0.5 ? 1
        : 0;

    private static double Key(RepairOption option, string? wish) =>
        wish switch
        {
            "quiet" => option.NoiseDba ?? double.PositiveInfinity,
            "fast" => (100 * (option.ClockLossPercent ?? 100)) + (option.TemperatureC?.Value ?? 200),
            "lasting" => (10 * (option.FailurePoints ?? 9)) - (option.Works ?? 0),
            _ => option.Quote.TotalMinor,
        };
}

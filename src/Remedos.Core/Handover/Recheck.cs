using System.Reflection;
using System.Text.Json;
using Remedos.Core.Learning;

namespace Remedos.Core.Handover;

/// <summary>How soon dust or age call for a look; recheck.json holds them all.</summary>
/// <param name="Id">A setting of the intake, or paste, loop-age, loop-after.</param>
/// <param name="Words">Why, in a sentence for the technician.</param>
public sealed record RecheckRow(string Id, int Days, string Words, string Reason);

/// <summary>A day on which the machine should be looked at again.</summary>
public sealed record RecheckProposal(DateOnly On, string Why);

/// <summary>What the days hang on; null is what nobody noted.</summary>
/// <param name="Setting">Where it stands, as the intake has it.</param>
/// <param name="MountedOn">When the cooler was put on in this job; null where it was not lifted.</param>
/// <param name="BuiltOn">When machine and loop were built.</param>
public sealed record RecheckFacts(DateOnly Today, string? Setting, string? CoolerKind, DateOnly? MountedOn, DateOnly? BuiltOn)
{
    /// <summary>How long coolers like the one that is on it last here; null where too few were seen.</summary>
    public SeriesLife? Series { get; init; }
}

/// <summary>How long coolers like the one on a machine last here.</summary>
/// <param name="Since">When the one on this machine was new; null when unknown.</param>
public sealed record SeriesLife(SeriesWear Wear, DateOnly? Since)
{
    private const double DaysAMonth = 30.44;

    /// <summary>A look comes this long before the age at which one in four has failed.</summary>
    private const int LookBeforeDays = 60;

    /// <summary>Beyond that age, how often.</summary>
    private const int BeyondDays = 120;

    /// <summary>When it should be looked at, with why; null where the records do not carry it.</summary>
    public RecheckProposal? Propose(DateOnly today)
    {
        if (Since is not { } since || Wear.QuarterMonths is not { } months)
        {
            return null;
        }

        DateOnly look = since.AddDays((int)(months * DaysAMonth) - LookBeforeDays);
        string record = $"{Wear.Life.Failures} of {Wear.Life.Units} {Wear.Name} that came in had failed, one in four by {months:0} months";
        return look > today
            ? new RecheckProposal(look, $"{record}: two months before that")
            : new RecheckProposal(today.AddDays(BeyondDays), $"{record}, and this one is close to it or past it: four months");
    }
}

/// <summary>Proposes rechecks by what was done, by dust and by age (docs/science.md, “Rechecks”).</summary>
public static class Recheck
{
    private const string Paste = "paste",
        LoopAge = "loop-age",
        LoopAfter = "loop-after",
        Elsewhere = "unknown";

    /// <summary>A cooler that was put on longer ago has settled.</summary>
    private const int FreshDays = 14;

    /// <summary>Every row.</summary>
    public static IReadOnlyList<RecheckRow> Rows { get; } = Load();

    /// <summary>The days, the nearest first; each with why.</summary>
    public static IReadOnlyList<RecheckProposal> Of(RecheckFacts facts)
    {
        List<RecheckProposal> all = [];
        if (facts.MountedOn is { } mounted && facts.Today.DayNumber - mounted.DayNumber < FreshDays)
        {
            all.Add(After(mounted, Row(Paste)));
        }

        all.Add(After(facts.Today, Rows.FirstOrDefault(row => row.Id == facts.Setting) ?? Row(Elsewhere)));
        if (facts is { CoolerKind: "liquid", BuiltOn: { } built })
        {
            RecheckProposal aged = After(built, Row(LoopAge));
            all.Add(aged.On > facts.Today ? aged : After(facts.Today, Row(LoopAfter)));
        }

        if (facts.Series?.Propose(facts.Today) is { } series)
        {
            all.Add(series);
        }

        return [.. all.OrderBy(one => one.On)];
    }

    private static RecheckProposal After(DateOnly from, RecheckRow row) => new(from.AddDays(row.Days), row.Words);

    private static RecheckRow Row(string id) => Rows.Single(row => row.Id == id);

    private static RecheckRow[] Load()
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream("Remedos.Core.Handover.recheck.json")!;
        RecheckRow[] rows = JsonSerializer.Deserialize(stream, TableJson.Default.RecheckRowArray)!;
        return rows.FirstOrDefault(row => row is not { Days: > 0, Words.Length: > 0, Reason.Length: > 10 }) is { } wrong
            ? throw new InvalidDataException($"recheck.json: “{wrong.Id}” lacks its days, words or reason.")
            : rows;
    }
}

using Remedos.Core.Learning;

namespace Remedos.Data.Records;

/// <summary>A series of coolers: what was found in all its machines.</summary>
public sealed class SeriesTotal : IOfWorkshop
{
    public Guid WorkshopId { get; init; }

    /// <summary>By its key.</summary>
    public required string Series { get; init; }

    /// <summary>As it was written in the machine that came last.</summary>
    public required string Name { get; set; }

    public int Machines { get; set; }

    /// <summary>In how many machines each cause was found.</summary>
    public required IReadOnlyDictionary<string, int> Causes { get; set; }

    /// <summary>How long it lasts; null while of no machine the age is known.</summary>
    public SeriesSummary? Wear { get; set; }

    /// <summary>What its curve is made of, the youngest first: machines whose cooler's age is known.</summary>
    public IReadOnlyList<SeenAge> Ages { get; set; } = [];
}

/// <summary>What this bench has learnt of a cooler.</summary>
public sealed class LeagueTotal : IOfWorkshop
{
    public Guid WorkshopId { get; init; }

    /// <summary>By its key.</summary>
    public required string Cooler { get; init; }

    /// <summary>The name of the part.</summary>
    public required string Name { get; set; }

    public required LeagueEntry Entry { get; set; }

    /// <summary>What it was before the last machine moved it; null for the first.</summary>
    public LeagueEntry? Before { get; set; }

    public DateTimeOffset MovedAt { get; set; }

    /// <summary>The machine that moved it last; null when a part's values did.</summary>
    public Guid? MovedBy { get; set; }
}

/// <summary>How a repair goes in this workshop.</summary>
public sealed class RepairTotal : IOfWorkshop
{
    public Guid WorkshopId { get; init; }

    /// <summary>The repair's id.</summary>
    public required string Act { get; init; }

    public int Repairs { get; set; }

    /// <summary>Those of them of which minutes planned and taken are both known.</summary>
    public int Logged { get; set; }

    /// <summary>Sums over those.</summary>
    public double PlannedMinutes { get; set; }

    /// <inheritdoc cref="PlannedMinutes"/>
    public double TakenMinutes { get; set; }

    /// <summary>The sum of the logarithms of taken over planned, and of their squares.</summary>
    public double LogSum { get; set; }

    /// <inheritdoc cref="LogSum"/>
    public double LogSquares { get; set; }

    /// <summary>Of how many it is known whether they ended the matter, and of how many they did.</summary>
    public int Judged { get; set; }

    /// <inheritdoc cref="Judged"/>
    public int Solved { get; set; }
}

/// <summary>How parts of one name fare that were fitted here.</summary>
public sealed class FittedTotal : IOfWorkshop
{
    public Guid WorkshopId { get; init; }

    public FittedKind Kind { get; init; }

    /// <summary>By its key.</summary>
    public required string Part { get; init; }

    /// <summary>As it was written in the machine that came last.</summary>
    public required string Name { get; set; }

    public required FittedParts Seen { get; set; }
}

/// <summary>What all machines say of two things that were tried in each other's place.</summary>
public sealed class TrialTotal : IOfWorkshop
{
    public Guid WorkshopId { get; init; }

    public TrialKind Kind { get; init; }

    /// <inheritdoc cref="TrialShare.One"/>
    public required string One { get; init; }

    /// <inheritdoc cref="TrialShare.Other"/>
    public required string Other { get; init; }

    public required string OneName { get; set; }

    public required string OtherName { get; set; }

    /// <summary>°C at 100 W.</summary>
    public required Pooled Change { get; set; }

    /// <summary>Of a settling: the median over machines; null where none tells it.</summary>
    public double? HalfLifeHours { get; set; }
}

/// <summary>Where a workshop's records stand.</summary>
public sealed class RecordStand : IOfWorkshop
{
    public Guid WorkshopId { get; init; }

    /// <summary>Counted up with each change of what one machine's page takes from elsewhere: parts, settings, totals.</summary>
    public long Revision { get; set; }

    /// <summary>The sums of all jobs' <see cref="Jobs.BenchScatter"/>.</summary>
    public double MountSquares { get; set; }

    public double MountDegrees { get; set; }

    public double WithinSquares { get; set; }

    public double WithinDegrees { get; set; }

    /// <summary>Runs that a bay led, and the sums of the logarithms of minutes taken over planned and of their squares.</summary>
    public int LedRuns { get; set; }

    /// <inheritdoc cref="LedRuns"/>
    public double LedLogSum { get; set; }

    /// <inheritdoc cref="LedRuns"/>
    public double LedLogSquares { get; set; }
}

/// <summary>A machine's tag as the list shows it.</summary>
public sealed class KeptTag : IOfWorkshop
{
    public Guid WorkshopId { get; init; }

    public Guid JobId { get; init; }

    /// <summary>Of the job, that it was made from.</summary>
    public uint JobVersion { get; set; }

    /// <summary>Of the records, that it was made with.</summary>
    public long Revision { get; set; }

    /// <summary>The workshop's day on which it was made.</summary>
    public DateOnly Day { get; set; }

    public required string WaitsFor { get; set; }

    /// <summary>JSON.</summary>
    public required string Headline { get; set; }

    public required string Now { get; set; }

    /// <summary>JSON of the staircase; null while there is none.</summary>
    public string? Staircase { get; set; }

    public double? TemperatureLimitC { get; set; }

    /// <summary>JSON of what is left to do on it.</summary>
    public required string Work { get; set; }
}

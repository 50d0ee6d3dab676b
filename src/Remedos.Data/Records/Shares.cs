using Remedos.Core.Learning;

namespace Remedos.Data.Records;

/// <summary>What was found in one machine, as its cooler's series counts it; there once cause and cooler are known.</summary>
public sealed class SeriesShare : IOfWorkshop
{
    public Guid WorkshopId { get; init; }

    public Guid JobId { get; init; }

    /// <summary>The series by its key: the name without regard to letters' case.</summary>
    public required string Series { get; set; }

    /// <summary>The name as it was written.</summary>
    public required string Name { get; set; }

    /// <summary>Ids of the diagnosis.</summary>
    public required IReadOnlyList<string> Causes { get; set; }

    public int Number { get; init; }

    public DateTimeOffset CameAt { get; init; }

    /// <summary>When its cooler was new; null when unknown.</summary>
    public DateOnly? Since { get; set; }

    /// <summary>By which a machine that came again is known, in small letters; null when unknown.</summary>
    public string? Serial { get; set; }

    /// <summary>The earlier job whose tag it bears; null for none.</summary>
    public int? Tagged { get; set; }
}

/// <summary>What was put into one machine to stay; there once it left with it, or gave it up.</summary>
public sealed class FittedShare : IOfWorkshop
{
    public Guid WorkshopId { get; init; }

    public Guid JobId { get; init; }

    public FittedKind Kind { get; init; }

    /// <summary>By its key.</summary>
    public required string Part { get; init; }

    /// <summary>The name as it was written.</summary>
    public required string Name { get; set; }

    public int Number { get; init; }

    /// <inheritdoc cref="SeriesShare.Serial"/>
    public string? Serial { get; set; }

    public DateTimeOffset FittedAt { get; set; }

    /// <summary>Whether it was given up before the machine left.</summary>
    public bool TakenOff { get; set; }

    /// <summary>
    /// The job of the first visit after which found that it no longer does what it is for; null where it did not come back. What these
    /// three say the database follows itself, as finds move.
    /// </summary>
    public Guid? BackBy { get; private set; }

    /// <summary>That job's number.</summary>
    public int? BackNumber { get; private set; }

    /// <summary>When that visit began.</summary>
    public DateTimeOffset? BackAt { get; private set; }
}

/// <summary>What one machine says of two things that were tried in each other's place; see <see cref="Trial"/>.</summary>
public sealed class TrialShare : IOfWorkshop
{
    public Guid WorkshopId { get; init; }

    public Guid JobId { get; init; }

    public TrialKind Kind { get; init; }

    /// <summary>By its key, the first by its letters.</summary>
    public required string One { get; init; }

    /// <summary>By its key; of a settling the same.</summary>
    public required string Other { get; init; }

    public required string OneName { get; set; }

    public required string OtherName { get; set; }

    /// <summary>°C at 100 W.</summary>
    public double ChangeC { get; set; }

    public double MountWeight { get; set; }

    public double WithinWeight { get; set; }

    public double RestVariance { get; set; }

    public double? HalfLifeHours { get; set; }

    public int Runs { get; set; }
}

/// <summary>How one round's repair went; there once its steps were worked through or its round is over.</summary>
public sealed class RepairShare : IOfWorkshop
{
    public Guid WorkshopId { get; init; }

    public Guid JobId { get; init; }

    public int Round { get; init; }

    /// <summary>The repair, of <see cref="Core.Repair.RepairRow"/>; what was done with others goes by the first of them.</summary>
    public required string Act { get; set; }

    /// <summary>Of hands, by its steps; null where none were composed.</summary>
    public double? PlannedMinutes { get; set; }

    /// <summary>As its steps logged them; null where nobody ticked.</summary>
    public double? TakenMinutes { get; set; }

    /// <summary>Whether it ended the matter: handed over without another round for the same. Null while that is open.</summary>
    public bool? Solved { get; set; }
}

/// <summary>What one machine showed of a cooler after a repair.</summary>
public sealed class LeagueShare : IOfWorkshop
{
    public Guid WorkshopId { get; init; }

    public Guid JobId { get; init; }

    /// <summary>By its key.</summary>
    public required string Cooler { get; init; }

    /// <summary>Logarithm of the measured resistance over the catalogue's, the mean of its runs.</summary>
    public double LogRatio { get; set; }

    public int Runs { get; set; }
}

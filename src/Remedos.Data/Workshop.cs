using Remedos.Core.Matching;

namespace Remedos.Data;

/// <summary>A workshop; every other row belongs to one.</summary>
public sealed class Workshop
{
    public Guid Id { get; init; }

    public required string Name { get; set; }

    /// <summary>Letters before a job's number on its tag.</summary>
    public required string TagPrefix { get; set; }

    public required string Currency { get; set; }

    public int NextJobNumber { get; set; }

    /// <summary>Standard deviation of a run on this bench, °C at reference power.</summary>
    public double RepeatabilityC { get; set; }

    /// <summary>An hour's work in the currency's minor unit, without tax.</summary>
    public long LabourMinorPerHour { get; set; }

    public double TaxPercent { get; set; }

    /// <summary>How this workshop weighs coolers; null while it goes by one of the schools.</summary>
    public School? Weights { get; set; }
}

/// <summary>Someone who works there; the "who" of every event.</summary>
public sealed class Person
{
    public Guid Id { get; init; }

    public Guid WorkshopId { get; init; }

    public required string Name { get; set; }
}

namespace Remedos.Data.Jobs;

/// <summary>
/// What a job's own re-mounts and repeats show of how this bench scatters; kept by the changes of its runs, added up by every verdict.
/// </summary>
public sealed class BenchScatter : IOfWorkshop
{
    public Guid WorkshopId { get; init; }

    public Guid JobId { get; init; }

    /// <summary>
    /// Sum of squares of mounts about their setup's mean, °C² at reference power; what runs and rooms explain is taken off.
    /// </summary>
    public double MountSquares { get; set; }

    public double MountDegrees { get; set; }

    /// <summary>Sum of squares of runs about their mount's mean, °C².</summary>
    public double WithinSquares { get; set; }

    public double WithinDegrees { get; set; }

    /// <summary>Its runs that a bay led, and the sums of the logarithms of minutes taken over planned and of their squares.</summary>
    public int LedRuns { get; set; }

    /// <inheritdoc cref="LedRuns"/>
    public double LedLogSum { get; set; }

    /// <inheritdoc cref="LedRuns"/>
    public double LedLogSquares { get; set; }
}

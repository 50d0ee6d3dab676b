namespace Remedos.Data.Samples;

/// <summary>A chunk of one channel at one level of the pyramid; see this folder's README.</summary>
public sealed class SampleChunk : IOfWorkshop
{
    public Guid WorkshopId { get; init; }

    public Guid RunId { get; init; }

    public short Level { get; init; }

    /// <summary>The channel's column in the log, from 0.</summary>
    public short Channel { get; init; }

    public int Chunk { get; init; }

    /// <summary>Samples at level 0, means above; NaN where missing.</summary>
    public required float[] Values { get; init; }

    /// <summary>Empty at level 0.</summary>
    public required float[] Lows { get; init; }

    public required float[] Highs { get; init; }
}

/// <summary>A chunk of a run's time base at one level.</summary>
public sealed class TimeChunk : IOfWorkshop
{
    public Guid WorkshopId { get; init; }

    public Guid RunId { get; init; }

    public short Level { get; init; }

    public int Chunk { get; init; }

    /// <summary>Elapsed seconds of each row; above level 0 of the first row in each group.</summary>
    public required double[] Seconds { get; init; }
}

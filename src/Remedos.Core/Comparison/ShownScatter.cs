namespace Remedos.Core.Comparison;

/// <summary>
/// What re-mounts and repeats have shown of a bench's scatter: sums of squares, °C² at reference power, and their degrees of freedom.
/// </summary>
/// <param name="MountSquares">Of mounts about their setup's mean; what runs and rooms explain is taken off.</param>
/// <param name="WithinSquares">Of runs about their mount's mean.</param>
public sealed record ShownScatter(double MountSquares, double MountDegrees, double WithinSquares, double WithinDegrees)
{
    /// <summary>No repeat was made yet.</summary>
    public static readonly ShownScatter Nothing = new(0, 0, 0, 0);

    /// <summary>Both together.</summary>
    public ShownScatter Plus(ShownScatter other) =>
        new(
            MountSquares + other.MountSquares,
            MountDegrees + other.MountDegrees,
            WithinSquares + other.WithinSquares,
            WithinDegrees + other.WithinDegrees
        );

    /// <summary>This without a part of it.</summary>
    public ShownScatter Less(ShownScatter part) =>
        new(
            MountSquares - part.MountSquares,
            MountDegrees - part.MountDegrees,
            WithinSquares - part.WithinSquares,
            WithinDegrees - part.WithinDegrees
        );

    /// <summary>An average bench that has shown this.</summary>
    public Repeatability Over(Repeatability prior) => prior.With(Math.Max(0, MountSquares), MountDegrees, WithinSquares, WithinDegrees);

    /// <summary>What the runs of one setup show, of each kind of run that was made more than once.</summary>
    public static ShownScatter Of(IReadOnlyList<ConditionedRun> setup)
    {
        ShownScatter shown = Nothing;
        foreach (IReadOnlyList<ConditionedRun> alike in RunPairing.Alike(setup).Where(alike => alike.Count > 1))
        {
            Reading[] readings = Comparer.Readings(alike, Subject.Processor, "");
            if (readings.Length > 1)
            {
                AlignedSetups aligned = new([readings], [true]);
                shown = shown.Plus(
                    Precision.Shown(
                        [
                            [.. aligned.Mounts(0).Select(runs => runs.Select(value => value * aligned.ReferencePowerW).ToArray())],
                        ],
                        Repeatability.Prior.WithinC,
                        aligned.DesignOf(0).RoomC
                    )
                );
            }
        }

        return shown;
    }
}

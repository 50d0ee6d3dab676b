namespace Remedos.Core.Comparison;

/// <summary>
/// How far a bench's runs scatter though nothing was changed, as standard deviations at reference power: between mounts and their days,
/// and between runs of one mount. Each is worth some degrees of freedom, as a scaled inverse chi-squared prior is.
/// </summary>
/// <param name="MountC">Between mounts, the room's reading apart, °C.</param>
/// <param name="MountDegrees">Degrees of freedom that this is worth.</param>
/// <param name="WithinC">Between runs on one mount, °C.</param>
/// <param name="WithinDegrees">Likewise.</param>
public sealed record Repeatability(double MountC, double MountDegrees, double WithinC, double WithinDegrees)
{
    /// <summary>What an average bench does, before this one has shown anything (docs/science.md).</summary>
    public static readonly Repeatability Prior = new(1.0, 6, 0.3, 10);

    /// <summary>This and what re-mounts and repeats have shown beyond it: pooled variances, degrees of freedom added.</summary>
    /// <param name="mountSquares">Sum of squares of mount means about their setup's, less what runs and room explain, °C².</param>
    /// <param name="mountDegrees">Its degrees of freedom.</param>
    /// <param name="withinSquares">Sum of squares of runs about their mount's mean, °C².</param>
    /// <param name="withinDegrees">Its degrees of freedom.</param>
    public Repeatability With(double mountSquares, double mountDegrees, double withinSquares, double withinDegrees) =>
        new(
            Pooled(MountC, MountDegrees, mountSquares, mountDegrees),
            MountDegrees + mountDegrees,
            Pooled(WithinC, WithinDegrees, withinSquares, withinDegrees),
            WithinDegrees + withinDegrees
        );

    private static double Pooled(double sd, double degrees, double squares, double more) =>
        Math.Sqrt(((degrees * sd * sd) + squares) / (degrees + more));
}

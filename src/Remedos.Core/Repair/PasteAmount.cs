namespace Remedos.Core.Repair;

/// <summary>How much paste a chip's face wants, and how it is put there.</summary>
/// <param name="VolumeMm3">In all.</param>
/// <param name="Dots">One in the middle, or several beside each other on a long face.</param>
/// <param name="DotMm">Diameter of each as a ball.</param>
public sealed record PasteAmount(double VolumeMm3, int Dots, double DotMm)
{
    /// <summary>
    /// A layer of so many mm over the whole face, with what runs over the rim. Under pressure paste ends at a tenth of a millimetre or
    /// less; the rest is what a hand cannot place better.
    /// </summary>
    private const double LayerMm = 0.12;

    /// <summary>A dot spreads into a circle: a longer or larger face wants more of them.</summary>
    private const double RoundUpTo = 1.25,
        LargeMm2 = 2200;

    /// <summary>For a face, mm.</summary>
    public static PasteAmount Of(double acrossMm, double alongMm)
    {
        double area = acrossMm * alongMm,
            volume = area * LayerMm,
            longer = Math.Max(acrossMm, alongMm) / Math.Min(acrossMm, alongMm);
        int dots =
            area > LargeMm2 ? 5
            : longer > RoundUpTo ? 2
            : 1;
        return new PasteAmount(volume, dots, Math.Cbrt(6 * volume / dots / Math.PI));
    }

    /// <summary>“one dot of 7 mm in the middle”.</summary>
    public string Words =>
        Dots switch
        {
            1 => $"one dot of {DotMm:0} mm in the middle",
            2 => $"two dots of {DotMm:0} mm, side by side along the face",
            _ => $"five dots of {DotMm:0} mm, as on a die",
        };
}

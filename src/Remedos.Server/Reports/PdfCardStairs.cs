using PdfSharp.Drawing;
using Remedos.Core;
using Remedos.Core.Runs;

namespace Remedos.Server.Reports;

/// <summary>
/// The graphics card on paper: from the air that it breathes to its core, hot spot and memory; the same picture as the page's.
/// </summary>
internal static class PdfCardStairs
{
    private const double Between = 6,
        Headroom = 6,
        LowestFootC = 15;

    /// <summary>Says the same in words.</summary>
    public static string Words(GpuFigures now, GpuFigures? before)
    {
        Dictionary<string, double> was = Places(before).ToDictionary(one => one.Name, one => one.C, StringComparer.Ordinal);
        IEnumerable<string> places = Places(now)
            .Select(place =>
                $"{place.Name} {Degrees.At(place.C)}"
                + (was.TryGetValue(place.Name, out double earlier) ? $", was {Degrees.At(earlier)}" : "")
            );
        return $"Graphics card: {string.Join(", ", places)}.";
    }

    public static void Draw(XGraphics graphics, XRect place, GpuFigures now, GpuFigures? before)
    {
        (string Name, double C)[] drawn = [.. Places(now)];
        Dictionary<string, double> was = Places(before).ToDictionary(one => one.Name, one => one.C, StringComparer.Ordinal);
        double top = drawn.Select(one => one.C).Concat(was.Values).Max() + Headroom,
            foot = Math.Min(LowestFootC, drawn[0].C - 5),
            wide = (place.Width - (Between * (drawn.Length - 1))) / drawn.Length;
        double Tall(double c) => Math.Max(0, place.Height * (c - foot) / (top - foot));
        for (int i = 0; i < drawn.Length; i++)
        {
            (string name, double c) = drawn[i];
            double x = place.Left + (i * (wide + Between));
            graphics.DrawRectangle(
                new XSolidBrush(i == 0 && now.AirC is not null ? PdfInk.TealSoft : PdfInk.CopperSoft),
                x,
                place.Bottom - Tall(c),
                wide,
                Tall(c)
            );
            if (was.TryGetValue(name, out double earlier))
            {
                graphics.DrawRectangle(PdfInk.Pen(PdfInk.Edge, 1.2, dashed: true), x, place.Bottom - Tall(earlier), wide, Tall(earlier));
            }

            double middle = x + (wide / 2);
            graphics.Words($"{Degrees.At(c)}", 14, PdfInk.Ink, middle, place.Bottom - 20, XStringAlignment.Center, bold: true);
            string below = was.ContainsKey(name) ? $"{name}, was {Degrees.At(earlier)}" : name;
            graphics.Words(below, 9, PdfInk.Muted, middle, place.Bottom - 7, XStringAlignment.Center);
        }

        graphics.DrawLine(PdfInk.Pen(PdfInk.Edge, 1), place.Left, place.Bottom, place.Right, place.Bottom);
    }

    private static IEnumerable<(string Name, double C)> Places(GpuFigures? card) =>
        card is null
            ? []
            : new (string Name, double? C)[]
            {
                ("its air", card.AirC),
                ("core", card.Core.SustainedC),
                ("hot spot", card.HotSpot?.SustainedC),
                ("memory", card.Memory?.SustainedC),
            }
                .Where(one => one.C is not null)
                .Select(one => (one.Name, one.C!.Value));
}

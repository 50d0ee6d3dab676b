using PdfSharp.Drawing;
using Remedos.Core;
using Remedos.Core.HeatPath;
using Remedos.Core.Runs;

namespace Remedos.Server.Reports;

/// <summary>
/// The heat path on paper: each step as wide as its resistance and as tall as the degrees lost there, what was before as an outline, the
/// limit as a line. The same picture as the page's.
/// </summary>
internal static class PdfStaircase
{
    private const double LeftEdge = 30,
        TopEdge = 24,
        BottomEdge = 18,
        LabelRoom = 0.8;

    /// <summary>Says the same in words.</summary>
    public static string Words(HeatStaircase now, HeatStaircase? before, double? limitC) =>
        $"From the room at {Degrees.At(now.RoomC)} to the chip at {Degrees.At(now.ChipC)}: "
        + string.Join("; ", now.Steps.Select(step => $"{step.Title} {Degrees.By(step.RiseC)}"))
        + $".{(limitC is { } limit ? $" Limit {Degrees.At(limit)}." : "")}"
        + $"{(before is null ? "" : $" Before: {Degrees.At(before.ChipC)}.")}";

    public static void Draw(XGraphics graphics, XRect place, HeatStaircase now, HeatStaircase? before, double? limitC)
    {
        double highest = Math.Max(now.ChipC, Math.Max(before?.ChipC ?? 0, limitC ?? 0)),
            lowest = Math.Min(now.RoomC, before?.RoomC ?? now.RoomC),
            left = place.Left + LeftEdge;
        double Y(double c) => place.Top + TopEdge + ((place.Height - TopEdge - BottomEdge) * (highest - c) / Math.Max(1, highest - lowest));
        static double Total(HeatStaircase stairs) => stairs.Steps.Sum(step => step.ResistanceCPerW);
        double scale = (place.Right - left) * LabelRoom / Math.Max(Math.Max(Total(now), before is null ? 0 : Total(before)), 1e-6);

        foreach ((double c, string label) in Degrees.Rungs(lowest, highest))
        {
            if (c - lowest > 4 || c == lowest)
            {
                graphics.Words(label, 8.5, PdfInk.Muted, left - 6, Y(c) + 3, XStringAlignment.Far);
            }
        }

        graphics.DrawLine(PdfInk.Pen(PdfInk.Hairline, 0.8), left, Y(now.RoomC), place.Right, Y(now.RoomC));
        graphics.Words($"room {Degrees.At(now.RoomC, "0.0")}", 9, PdfInk.Muted, left + 2, Y(now.RoomC) + 12);
        if (limitC is { } limit)
        {
            graphics.DrawLine(PdfInk.Pen(PdfInk.Ink, 1), left, Y(limit), place.Right, Y(limit));
            graphics.Words($"limit {Degrees.At(limit)}", 9.5, PdfInk.Ink, left + 4, Y(limit) - 5, bold: true);
        }

        double x = left;
        foreach (StaircaseStep step in now.Steps)
        {
            double wide = step.ResistanceCPerW * scale,
                top = Y(step.FromC + step.RiseC),
                tall = Math.Max(0, Y(step.FromC) - top);
            graphics.DrawRectangle(new XSolidBrush(ColorOf(step.Id)), x, top, wide, tall);
            if (step.Swollen)
            {
                graphics.DrawRectangle(PdfInk.Pen(PdfInk.Copper, 2.5), x, top, wide, tall);
            }

            bool titled = tall > 30 && graphics.MeasureString(step.Title, PdfInk.Font(step.Title, 9)).Width < wide - 6;
            if (titled)
            {
                graphics.Words(step.Title, 9, PdfInk.Ink, x + (wide / 2), top + (tall / 2) - 2, XStringAlignment.Center);
            }

            if (wide > 36 && tall > 14)
            {
                double y = top + (tall / 2) + (titled ? 11 : 4);
                graphics.Words($"{Degrees.By(step.RiseC)}", 10.5, PdfInk.Ink, x + (wide / 2), y, XStringAlignment.Center, bold: true);
            }

            x += wide;
        }

        if (before is not null)
        {
            (double endX, double endY) = Outline(graphics, before, left, scale, Y, PdfInk.Pen(PdfInk.Edge, 1.2, dashed: true));
            graphics.DrawEllipse(PdfInk.Pen(PdfInk.Edge, 1.5), XBrushes.White, endX - 3, endY - 3, 6, 6);
            // Clear of the other end's label, and of the limit's line.
            bool apart = Math.Abs(endY - Y(now.ChipC)) > 12 && (limitC is null || Math.Abs(endY - Y(limitC.Value)) > 8);
            Label(graphics, place, endX, apart ? endY + 4 : endY + 14, $"{Degrees.At(before.ChipC)} before", 9.5, PdfInk.Muted, false);
        }

        (double topX, double topY) = Outline(graphics, now, left, scale, Y, PdfInk.Pen(PdfInk.Teal, 2));
        graphics.DrawEllipse(new XSolidBrush(PdfInk.Teal), topX - 4, topY - 4, 8, 8);
        double clear = limitC is { } edge && Math.Abs(topY - Y(edge)) < 10 ? Y(edge) + 16 : topY + 5;
        Label(graphics, place, topX, clear, $"{Degrees.At(now.ChipC)}{(before is null ? "" : " after")}", 13, PdfInk.Teal, true);
    }

    private static XColor ColorOf(HeatStep step) =>
        step switch
        {
            HeatStep.Chip => PdfInk.CopperSoft,
            HeatStep.Cooler => PdfInk.Shade,
            _ => PdfInk.TealSoft,
        };

    private static (double X, double Y) Outline(
        XGraphics graphics,
        HeatStaircase stairs,
        double left,
        double scale,
        Func<double, double> y,
        XPen pen
    )
    {
        List<XPoint> points = [new(left, y(stairs.RoomC))];
        double x = left;
        foreach (StaircaseStep step in stairs.Steps)
        {
            double top = y(step.FromC + step.RiseC);
            points.Add(new XPoint(x, top));
            x += step.ResistanceCPerW * scale;
            points.Add(new XPoint(x, top));
        }

        graphics.DrawLines(pen, [.. points]);
        return (x, y(stairs.ChipC));
    }

    /// <summary>Beside its point where there is room, else before it.</summary>
    private static void Label(XGraphics graphics, XRect place, double x, double y, string text, double size, XColor color, bool bold)
    {
        bool room = place.Right - x > graphics.MeasureString(text, PdfInk.Font(text, size, bold)).Width + 10;
        graphics.Words(text, size, color, room ? x + 8 : x - 8, y, room ? XStringAlignment.Near : XStringAlignment.Far, bold);
    }
}

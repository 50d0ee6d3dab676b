using PdfSharp.Drawing;

namespace Remedos.Server.Reports;

/// <summary>The page's colours on paper; the same roles as in the design tokens of the web.</summary>
internal static class PdfInk
{
    public static readonly XColor Ink = XColor.FromArgb(0x26, 0x29, 0x2b),
        Muted = XColor.FromArgb(0x5c, 0x5b, 0x55),
        Hairline = XColor.FromArgb(0xd9, 0xd2, 0xc4),
        Edge = XColor.FromArgb(0x8b, 0x86, 0x7b),
        Teal = XColor.FromArgb(0x0f, 0x5c, 0x63),
        TealSoft = XColor.FromArgb(0xcf, 0xe3, 0xe1),
        Copper = XColor.FromArgb(0xb5, 0x60, 0x2b),
        CopperSoft = XColor.FromArgb(0xe9, 0xc9, 0xae),
        Shade = XColor.FromArgb(0xec, 0xe5, 0xd8);

    public static XPen Pen(XColor color, double width, bool dashed = false) =>
        new(color, width) { DashStyle = dashed ? XDashStyle.Dash : XDashStyle.Solid };

    public static XFont Font(string text, double size, bool bold = false) =>
        new(PdfFonts.FaceOf(text), size, bold ? XFontStyleEx.Bold : XFontStyleEx.Regular);

    /// <summary>A line of text at its baseline.</summary>
    public static void Words(
        this XGraphics graphics,
        string text,
        double size,
        XColor color,
        double x,
        double y,
        XStringAlignment at = XStringAlignment.Near,
        bool bold = false
    )
    {
        XFont font = Font(text, size, bold);
        double width = at == XStringAlignment.Near ? 0 : graphics.MeasureString(text, font).Width;
        double left = at switch
        {
            XStringAlignment.Center => x - (width / 2),
            XStringAlignment.Far => x - width,
            _ => x,
        };
        graphics.DrawString(text, font, new XSolidBrush(color), new XPoint(left, y));
    }
}

using PdfSharp.Drawing;
using Remedos.Core;

namespace Remedos.Server.Reports;

/// <summary>A chip's temperature over a run, for paper.</summary>
/// <param name="Seconds">Times, ascending; and the temperatures there, °C.</param>
/// <param name="LoadFrom">Where its load begins, s; and ends. Null without one.</param>
internal sealed record ReportTrace(
    string Title,
    IReadOnlyList<double> Seconds,
    IReadOnlyList<double> TemperaturesC,
    double DurationSeconds,
    double? LoadFrom,
    double? LoadTo,
    double? SustainedC,
    double? LimitC
)
{
    public string Words =>
        SustainedC is { } at
            ? $"{Title}: {Degrees.At(at)} under steady full load{(LimitC is { } limit ? $", limit {Degrees.At(limit)}" : "")}."
            : $"{Title}: no load found.";
}

/// <summary>The small still picture of a run; the same as the page's.</summary>
internal static class PdfTrace
{
    private const double LowestC = 10,
        AboveC = 12,
        LeastTopC = 60,
        LeftEdge = 28,
        TopEdge = 18,
        BottomEdge = 16;

    /// <summary>The top of the scale that all of them stand on, °C.</summary>
    public static double TopC(IReadOnlyList<ReportTrace> traces) =>
        Math.Max(LeastTopC, traces.SelectMany(trace => trace.TemperaturesC.Append(trace.LimitC ?? 0)).DefaultIfEmpty(0).Max() + AboveC);

    /// <summary>Draws it.</summary>
    /// <param name="topC">Of the scale, the same for both sides.</param>
    public static void Draw(XGraphics graphics, XRect place, ReportTrace trace, double topC)
    {
        double left = place.Left + LeftEdge,
            from = trace.LoadFrom ?? 0;
        double X(double second) => left + ((place.Right - left) * second / Math.Max(1, trace.DurationSeconds));
        double Y(double c) => place.Bottom - BottomEdge - ((place.Height - TopEdge - BottomEdge) * (c - LowestC) / (topC - LowestC));
        graphics.Words(trace.Title, 10.5, PdfInk.Ink, left, place.Top + 10, bold: true);
        if (trace is { LoadFrom: { } begins, LoadTo: { } ends })
        {
            graphics.DrawRectangle(new XSolidBrush(PdfInk.Shade), X(begins), Y(topC), X(ends) - X(begins), Y(LowestC) - Y(topC));
        }

        foreach ((double c, string label) in Degrees.Rungs(LowestC, topC))
        {
            graphics.DrawLine(PdfInk.Pen(PdfInk.Hairline, 0.6), left, Y(c), place.Right, Y(c));
            graphics.Words(label, 8, PdfInk.Muted, left - 4, Y(c) + 3, XStringAlignment.Far);
        }

        for (double minute = 0; from + (minute * 60) <= trace.DurationSeconds && minute <= 30; minute += 10)
        {
            string words = minute == 0 ? "0 min" : $"{minute:0}";
            graphics.Words(words, 8, PdfInk.Muted, X(from + (minute * 60)), place.Bottom - 4, XStringAlignment.Center);
        }

        if (trace.LimitC is { } limit)
        {
            graphics.DrawLine(PdfInk.Pen(PdfInk.Ink, 0.9), left, Y(limit), place.Right, Y(limit));
            graphics.Words($"limit {Degrees.At(limit)}", 8, PdfInk.Ink, place.Right, Y(limit) - 3, XStringAlignment.Far);
        }

        if (trace.Seconds.Count > 1)
        {
            graphics.DrawLines(
                PdfInk.Pen(PdfInk.Copper, 1.3),
                [.. trace.Seconds.Select((second, i) => new XPoint(X(second), Y(trace.TemperaturesC[i])))]
            );
        }
    }
}

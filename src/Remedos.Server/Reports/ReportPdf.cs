using System.Globalization;
using PdfSharp.Drawing;
using Remedos.Core.Handover;

namespace Remedos.Server.Reports;

/// <summary>The owner's page on paper: one to two sheets.</summary>
internal static class ReportPdf
{
    private const double StairsHeight = 122,
        TraceHeight = 90,
        Between = 14;

    /// <summary>A longer text is nothing for half of the width.</summary>
    private const int ShortEnough = 400;

    /// <summary>Draws it.</summary>
    /// <param name="paper">Of <see cref="PdfSheet.Papers"/>.</param>
    public static byte[] Of(OwnerReport report, string paper)
    {
        string day = report.Day.ToString("d MMMM yyyy", CultureInfo.InvariantCulture);
        using PdfSheet sheet = new($"{report.Tag} {report.Page.Headline}", paper, $"{report.From.Name} · {report.Tag} · {day}");
        sheet.Head(report.From, $"{report.From.Name} · {report.Tag}", day);

        sheet.Gap(8);
        sheet.Title(report.Page.Headline);
        sheet.Text(report.Owner, muted: true);
        // Short texts stand beside each other, as on the page: with them it fits one sheet.
        HashSet<string> told = [];
        foreach ((string left, string right) in new[] { ("told", "found"), ("did", "price") })
        {
            OwnerSection[] pair = [.. report.Page.Sections.Where(section => section.Id == left || section.Id == right)];
            if (pair.Length == 2 && Array.TrueForAll(pair, section => section.Lines.Sum(line => line.Length) < ShortEnough))
            {
                sheet.Beside([.. pair.Select(section => (section.Title, string.Join(" ", section.Lines)))]);
                told.UnionWith(pair.Select(section => section.Id));
            }
        }

        foreach (OwnerSection section in report.Page.Sections.Where(section => !told.Contains(section.Id)))
        {
            sheet.Heading(section.Title);
            if (section.Listed)
            {
                sheet.List(section.Lines);
            }
            else
            {
                foreach (string line in section.Lines)
                {
                    sheet.Text(line);
                }
            }

            if (section.Id == "measured")
            {
                Measured(sheet, report);
            }
        }

        if (report.Page.Sections.All(section => section.Id != "measured"))
        {
            Pictures(sheet, report);
        }

        sheet.Gap(10);
        sheet.Text(report.Page.Recheck, size: 13);
        return sheet.ToBytes();
    }

    private static void Measured(PdfSheet sheet, OwnerReport report)
    {
        if (report.Page.HowSure is { } sure)
        {
            sheet.Text($"How sure: {sure}", muted: true);
        }

        Pictures(sheet, report);
    }

    private static void Pictures(PdfSheet sheet, OwnerReport report)
    {
        if (report.Now is { Steps.Count: > 0 } now)
        {
            sheet.Gap(4);
            sheet.Figure(StairsHeight, PdfStaircase.Words(now, report.Before, report.LimitC), (graphics, place) =>
                PdfStaircase.Draw(graphics, place, now, report.Before, report.LimitC)
            );
            sheet.Text("Where the degrees are lost, from the room on the left to the chip on the right.", muted: true, size: 9);
        }

        if (report.Card is { } card)
        {
            sheet.Gap(4);
            sheet.Figure(StairsHeight, PdfCardStairs.Words(card, report.CardBefore), (graphics, place) =>
                PdfCardStairs.Draw(graphics, place, card, report.CardBefore)
            );
        }

        if (report.Traces.Count > 0)
        {
            double top = PdfTrace.TopC(report.Traces);
            sheet.Figure(TraceHeight, string.Join(" ", report.Traces.Select(trace => trace.Words)), (graphics, place) =>
            {
                double wide = (place.Width - Between) / 2;
                for (int i = 0; i < report.Traces.Count; i++)
                {
                    XRect half = new(place.X + (i * (wide + Between)), place.Y, wide, place.Height);
                    PdfTrace.Draw(graphics, half, report.Traces[i], top);
                }
            });
        }
    }
}

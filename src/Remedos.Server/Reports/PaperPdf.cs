using System.Globalization;
using Remedos.Core.Money;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Server.Session;

namespace Remedos.Server.Reports;

/// <summary>A quote or a bill on paper.</summary>
internal static class PaperPdf
{
    private static readonly Dictionary<string, string> YesWords = new(StringComparer.Ordinal)
    {
        ["in-person"] = "in person",
        ["telephone"] = "by telephone",
        ["mail"] = "by mail",
        ["signed"] = "by signature",
    };

    /// <summary>Draws it.</summary>
    /// <param name="size">Of <see cref="PdfSheet.Papers"/>.</param>
    public static byte[] Of(Paper paper, string tag, Workshop workshop, Letterhead own, string size)
    {
        string Day(DateTimeOffset at) => WorkshopClock.At(workshop, at).ToString("d MMMM yyyy", CultureInfo.InvariantCulture);
        Statement said = paper.Statement;
        string Amount(long minor) => Currency.Amount(minor, said.Currency);
        string name = PaperEndpoints.NameOf(paper),
            maker = paper.From ?? workshop.Name;
        using PdfSheet sheet = new($"{name}, {maker}", size, $"{maker} · {name} · {tag}");
        sheet.Head(paper.From is null ? own : new Letterhead(maker, null, null, null), maker, Day(paper.MadeAt), inOneLine: false);

        sheet.Gap(14);
        if (said.Billed is { } billed)
        {
            sheet.Text(billed);
            sheet.Gap(10);
        }

        sheet.Title(name);
        sheet.Text($"{said.Title} · {tag}", muted: true);
        if (paper.VoidedAt is { } voided)
        {
            sheet.Text($"Taken back on {Day(voided)}: {paper.VoidedWhy}");
        }

        sheet.Gap(8);
        sheet.Table(
            [new("What", 0.46), new("Quantity", 0.16, Right: true), new("Price", 0.19, Right: true), new(said.Currency, 0.19, Right: true)],
            [
                .. said.Lines.Select(line =>
                    ((IReadOnlyList<string>)[line.What, QuantityOf(line), PriceOf(line, Amount), Amount(line.NetMinor)], false)
                ),
                (["Without tax", "", "", Amount(said.NetMinor)], true),
                ([string.Create(CultureInfo.InvariantCulture, $"Tax, {said.TaxPercent:0.##} %"), "", "", Amount(said.TaxMinor)], false),
                (["Total", "", "", Currency.Words(said.TotalMinor, said.Currency)], true),
            ]
        );
        sheet.Gap(12);
        if (paper is { YesBy: { } by, YesAt: { } yes })
        {
            sheet.Text($"Agreed {YesWords.GetValueOrDefault(by, by)} on {Day(yes)}.");
        }
        else if (paper is { Kind: Paper.Quote, VoidedAt: null })
        {
            sheet.Text("Agreed, date and signature:");
            sheet.Gap(26);
            sheet.Table([new("", 0.6)], []);
        }

        return sheet.ToBytes();
    }

    private static string QuantityOf(StatementLine line) =>
        line.Quantity.ToString("0.##", CultureInfo.InvariantCulture) + (line.Unit is { } unit ? $" {unit}" : "");

    private static string PriceOf(StatementLine line, Func<long, string> amount) =>
        amount(line.UnitMinor) + (line.Unit == StatementLine.Minutes ? " an hour" : "");
}

using System.Globalization;
using Remedos.Core.Runs;

namespace Remedos.Server.Reports;

/// <summary>What a maker is told of a machine under warranty.</summary>
/// <param name="Facts">What it is and since when, a name and its value each.</param>
/// <param name="Noticed">What the owner noticed.</param>
/// <param name="Measured">What each run showed, a sentence each; as it came, before anything was opened.</param>
/// <param name="Conclusion">What it points to; null while that is too early to say.</param>
/// <param name="Proof">The proof of purchase as a JPEG picture; null where none is kept.</param>
internal sealed record Claim(
    Letterhead From,
    string Tag,
    DateOnly Day,
    IReadOnlyList<(string Name, string Value)> Facts,
    string? Noticed,
    IReadOnlyList<string> Measured,
    string? Conclusion,
    HeatStaircase? Stairs,
    double? LimitC,
    ReportTrace? Trace,
    byte[]? Proof
);

/// <summary>A warranty claim on paper: one page, and the proof of purchase behind it.</summary>
internal static class ClaimPdf
{
    private const double StairsHeight = 128,
        TraceHeight = 110,
        ProofHeight = 560;

    /// <summary>Draws it.</summary>
    /// <param name="paper">Of <see cref="PdfSheet.Papers"/>.</param>
    public static byte[] Of(Claim claim, string paper)
    {
        string day = claim.Day.ToString("d MMMM yyyy", CultureInfo.InvariantCulture);
        using PdfSheet sheet = new($"{claim.Tag} warranty claim", paper, $"{claim.From.Name} · {claim.Tag} · {day}");
        sheet.Head(claim.From, $"{claim.From.Name} · {claim.Tag}", day);

        sheet.Gap(8);
        sheet.Title("Warranty claim");
        sheet.Table(
            [new("What", 0.3), new("As noted", 0.7)],
            [.. claim.Facts.Select(fact => ((IReadOnlyList<string>)[fact.Name, fact.Value], false))]
        );
        if (!string.IsNullOrWhiteSpace(claim.Noticed))
        {
            sheet.Heading("What the owner noticed");
            sheet.Text(claim.Noticed);
        }

        sheet.Heading("What was measured");
        if (claim.Measured.Count == 0)
        {
            sheet.Text("Nothing was measured yet.");
        }

        sheet.List(claim.Measured);
        if (claim.Stairs is { Steps.Count: > 0 } stairs)
        {
            sheet.Gap(4);
            sheet.Figure(StairsHeight, PdfStaircase.Words(stairs, null, claim.LimitC), (graphics, place) =>
                PdfStaircase.Draw(graphics, place, stairs, null, claim.LimitC)
            );
        }

        if (claim.Trace is { } trace)
        {
            double top = PdfTrace.TopC([trace]);
            sheet.Figure(TraceHeight, trace.Words, (graphics, place) => PdfTrace.Draw(graphics, place, trace, top));
        }

        if (claim.Conclusion is { } conclusion)
        {
            sheet.Heading("What it points to");
            sheet.Text(conclusion);
        }

        if (claim.Proof is not { } proof)
        {
            return sheet.ToBytes();
        }

        sheet.Heading("Proof of purchase");
        sheet.Picture(proof, ProofHeight, "The proof of purchase.");
        return sheet.ToBytes();
    }
}

using PdfSharp;
using PdfSharp.Drawing;
using PdfSharp.Pdf;
using PdfSharp.UniversalAccessibility;

namespace Remedos.Server.Reports;

/// <summary>A column of a table on paper.</summary>
/// <param name="Share">Of the width.</param>
/// <param name="Right">Whether its cells stand at its right edge.</param>
internal sealed record PdfColumn(string Title, double Share, bool Right = false);

/// <summary>
/// A document that flows from the top of its first page to wherever it ends: text, lists, tables and pictures, tagged for those who
/// listen to it. Lengths in points.
/// </summary>
internal sealed class PdfSheet : IDisposable
{
    /// <summary>The kinds of paper.</summary>
    public const string A4 = "a4",
        Letter = "letter";

    public static readonly string[] Papers = [A4, Letter];

    private const double Margin = 44,
        Foot = 20,
        Leading = 1.35;

    private readonly PdfDocument _document = new();
    private readonly UAManager _tags;
    private readonly string _paper,
        _foot;
    private readonly Stack<PdfBlockLevelElementTag> _open = [];
    private XGraphics? _graphics;
    private double _y;

    public PdfSheet(string title, string paper, string foot)
    {
        PdfFonts.Use();
        (_paper, _foot) = (paper, foot);
        _document.Info.Title = title;
        _document.Info.Creator = "Remedos";
        _document.ViewerPreferences.DisplayDocTitle = true;
        _tags = UAManager.ForDocument(_document);
        _tags.SetDocumentLanguage("en-GB");
        NewPage();
        _tags.StructureBuilder.BeginElement(PdfGroupingElementTag.Document);
    }

    public void Dispose()
    {
        _graphics?.Dispose();
        _document.Dispose();
    }

    private double Width { get; set; }

    private double Bottom { get; set; }

    /// <summary>Room between what stands there and what follows.</summary>
    public void Gap(double points) => _y += points;

    public void Title(string text) => Block(PdfBlockLevelElementTag.Heading1, text, 22, PdfInk.Ink, bold: true, keep: 60);

    public void Heading(string text)
    {
        Gap(7);
        Block(PdfBlockLevelElementTag.Heading2, text, 13, PdfInk.Ink, bold: true, keep: 34);
    }

    public void Text(string text, bool muted = false, double size = 10.5) =>
        Block(PdfBlockLevelElementTag.Paragraph, text, size, muted ? PdfInk.Muted : PdfInk.Ink);

    /// <summary>Headings with their texts, beside each other.</summary>
    public void Beside(IReadOnlyList<(string Title, string Text)> parts)
    {
        const double size = 10.5,
            titleSize = 13,
            between = 20;
        double wide = (Width - (between * (parts.Count - 1))) / parts.Count;
        string[][] lines = [.. parts.Select(part => Wrapped(part.Text, PdfInk.Font(part.Text, size), wide).ToArray())];
        Gap(7);
        double head = titleSize * Leading * 1.25,
            height = head + (lines.Max(part => part.Length) * size * Leading);
        Need(height);
        for (int i = 0; i < parts.Count; i++)
        {
            double x = Margin + (i * (wide + between));
            Begin(PdfBlockLevelElementTag.Heading2);
            _graphics!.Words(parts[i].Title, titleSize, PdfInk.Ink, x, _y + titleSize, bold: true);
            End();
            Begin(PdfBlockLevelElementTag.Paragraph);
            for (int line = 0; line < lines[i].Length; line++)
            {
                _graphics!.Words(lines[i][line], size, PdfInk.Ink, x, _y + head + size + (line * size * Leading) - 2);
            }

            End();
        }

        _y += height + (size * 0.35);
    }

    /// <summary>The head of a document: who writes, what it is and when, and below it where that is.</summary>
    /// <param name="inOneLine">Whether the address stands in one line.</param>
    public void Head(Letterhead from, string left, string right, bool inOneLine = true)
    {
        const double logoHeight = 42;
        if (from.Logo is { } logo)
        {
            Picture(logo, logoHeight, $"The sign of {from.Name}.");
        }

        Edges(left, right);
        string[] lines =
        [
            .. (from.Address ?? "").Split('\n', StringSplitOptions.RemoveEmptyEntries),
            .. from.Open is null ? [] : new[] { from.Open },
        ];
        if (lines.Length > 0)
        {
            Text(string.Join(inOneLine ? " · " : "\n", lines), muted: true, size: 9);
        }
    }

    /// <summary>A JPEG picture as large as fits, at the left; one that cannot be read is left out.</summary>
    public void Picture(byte[] jpeg, double height, string words)
    {
        using MemoryStream bytes = new(WithHeader(jpeg));
        XImage picture;
        try
        {
            picture = XImage.FromStream(bytes);
        }
        catch (Exception failure) when (failure is not OutOfMemoryException)
        {
            // Brought in by somebody's archive: the library knows many ways to refuse it.
            return;
        }

        using (picture)
        {
            Figure(height, words, (graphics, place) =>
            {
                double scale = Math.Min(place.Width / picture.PixelWidth, place.Height / picture.PixelHeight);
                graphics.DrawImage(picture, place.X, place.Y, picture.PixelWidth * scale, picture.PixelHeight * scale);
            });
        }
    }

    /// <summary>The library knows a JPEG by its JFIF header only, and pictures are kept without one.</summary>
    private static byte[] WithHeader(byte[] jpeg) =>
        jpeg is [0xff, 0xd8, 0xff, 0xe0 or 0xe1, ..] ? jpeg
        : jpeg is [0xff, 0xd8, .. var rest] ? [0xff, 0xd8, 0xff, 0xe0, 0, 16, .. "JFIF\0"u8, 1, 1, 0, 0, 1, 0, 1, 0, 0, .. rest]
        : jpeg;

    /// <summary>Two texts on one line, at both edges.</summary>
    private void Edges(string left, string right)
    {
        Need(16);
        Begin(PdfBlockLevelElementTag.Paragraph);
        _graphics!.Words(left, 10, PdfInk.Muted, Margin, _y + 10);
        _graphics!.Words(right, 10, PdfInk.Muted, Margin + Width, _y + 10, XStringAlignment.Far);
        End();
        _y += 16;
    }

    public void List(IEnumerable<string> lines)
    {
        Begin(PdfBlockLevelElementTag.List);
        foreach (string line in lines)
        {
            string[] wrapped = [.. Wrapped(line, PdfInk.Font(line, 10.5), Width - 14)];
            Need(wrapped.Length * 10.5 * Leading);
            Begin(PdfBlockLevelElementTag.ListItem);
            Begin(PdfBlockLevelElementTag.ListBody);
            _graphics!.Words("•", 10.5, PdfInk.Ink, Margin + 2, _y + 10.5);
            Lines(wrapped, 10.5, PdfInk.Ink, false, 14);
            End();
            End();
        }

        End();
    }

    /// <summary>A picture, with the words that say the same.</summary>
    public void Figure(double height, string words, Action<XGraphics, XRect> draw)
    {
        Need(height + 6);
        XRect place = new(Margin, _y, Width, height);
        _tags.StructureBuilder.BeginElement(PdfIllustrationElementTag.Figure, words, place);
        draw(_graphics!, place);
        _tags.StructureBuilder.End();
        _y += height + 6;
    }

    /// <summary>A table; a row that is told as strong stands in bold under a line.</summary>
    public void Table(IReadOnlyList<PdfColumn> columns, IReadOnlyList<(IReadOnlyList<string> Cells, bool Strong)> rows)
    {
        Begin(PdfBlockLevelElementTag.Table);
        Row(columns, [.. columns.Select(column => column.Title)], PdfBlockLevelElementTag.TableHeaderCell, false, PdfInk.Muted);
        foreach ((IReadOnlyList<string> cells, bool strong) in rows)
        {
            Row(columns, cells, PdfBlockLevelElementTag.TableDataCell, strong, PdfInk.Ink);
        }

        End();
    }

    private void Row(IReadOnlyList<PdfColumn> columns, IReadOnlyList<string> cells, PdfBlockLevelElementTag tag, bool strong, XColor color)
    {
        const double size = 10.5,
            pad = 4;
        string[][] wrapped =
        [
            .. cells.Select((cell, i) => Wrapped(cell, PdfInk.Font(cell, size, strong), (columns[i].Share * Width) - 8).ToArray()),
        ];
        double height = (wrapped.Max(lines => Math.Max(1, lines.Length)) * size * Leading) + pad;
        Need(height);
        _tags.StructureBuilder.BeginArtifact();
        _graphics!.DrawLine(PdfInk.Pen(strong ? PdfInk.Ink : PdfInk.Hairline, 0.7), Margin, _y, Margin + Width, _y);
        _tags.StructureBuilder.End();
        Begin(PdfBlockLevelElementTag.TableRow);
        double x = Margin;
        for (int i = 0; i < columns.Count; i++)
        {
            double wide = columns[i].Share * Width;
            Begin(tag);
            for (int line = 0; line < wrapped[i].Length; line++)
            {
                double y = _y + pad + size - 2 + (line * size * Leading);
                _graphics!.Words(
                    wrapped[i][line],
                    size,
                    color,
                    columns[i].Right ? x + wide : x,
                    y,
                    columns[i].Right ? XStringAlignment.Far : XStringAlignment.Near,
                    strong
                );
            }

            End();
            x += wide;
        }

        End();
        _y += height;
    }

    /// <summary>The finished document.</summary>
    public byte[] ToBytes()
    {
        _tags.StructureBuilder.End();
        using MemoryStream bytes = new();
        _document.Save(bytes, false);
        return bytes.ToArray();
    }

    private void Block(PdfBlockLevelElementTag tag, string text, double size, XColor color, bool bold = false, double keep = 0)
    {
        string[] lines =
        [
            .. text.Split('\n', StringSplitOptions.TrimEntries).SelectMany(part => Wrapped(part, PdfInk.Font(part, size, bold), Width)),
        ];
        Need((Math.Min(lines.Length, 2) * size * Leading) + keep);
        Begin(tag);
        Lines(lines, size, color, bold, 0);
        End();
        _y += size * 0.35;
    }

    private void Lines(string[] lines, double size, XColor color, bool bold, double indent)
    {
        foreach (string line in lines)
        {
            Need(size * Leading);
            _graphics!.Words(line, size, color, Margin + indent, _y + size, bold: bold);
            _y += size * Leading;
        }
    }

    private IEnumerable<string> Wrapped(string text, XFont font, double width)
    {
        string line = "";
        foreach (string word in text.Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            string longer = line.Length == 0 ? word : $"{line} {word}";
            if (_graphics!.MeasureString(longer, font).Width <= width)
            {
                line = longer;
                continue;
            }

            if (line.Length > 0)
            {
                yield return line;
            }

            // A word that is wider than the paper is cut where the paper ends.
            line = word;
            while (_graphics!.MeasureString(line, font).Width > width && line.Length > 1)
            {
                int fits = line.Length - 1;
                while (fits > 1 && _graphics!.MeasureString(line[..fits], font).Width > width)
                {
                    fits--;
                }

                yield return line[..fits];
                line = line[fits..];
            }
        }

        if (line.Length > 0)
        {
            yield return line;
        }
    }

    private void Begin(PdfBlockLevelElementTag tag)
    {
        _tags.StructureBuilder.BeginElement(tag);
        _open.Push(tag);
    }

    private void End()
    {
        _tags.StructureBuilder.End();
        _open.Pop();
    }

    /// <summary>Goes on on the next page where this one is full; what is open there is closed here and opened anew.</summary>
    private void Need(double height)
    {
        if (_y + height <= Bottom)
        {
            return;
        }

        foreach (PdfBlockLevelElementTag _ in _open)
        {
            _tags.StructureBuilder.End();
        }

        NewPage();
        foreach (PdfBlockLevelElementTag tag in _open.Reverse())
        {
            _tags.StructureBuilder.BeginElement(tag);
        }
    }

    private void NewPage()
    {
        _graphics?.Dispose();
        PdfPage page = _document.AddPage();
        page.Size = _paper == Letter ? PageSize.Letter : PageSize.A4;
        (Width, Bottom) = (page.Width.Point - (2 * Margin), page.Height.Point - Margin - Foot);
        _graphics = XGraphics.FromPdfPage(page);
        _y = Margin;
        _tags.StructureBuilder.BeginArtifact();
        _graphics.Words(_foot, 9, PdfInk.Muted, Margin, page.Height.Point - Margin + 8);
        _graphics.Words(
            $"{_document.PageCount}",
            9,
            PdfInk.Muted,
            page.Width.Point - Margin,
            page.Height.Point - Margin + 8,
            XStringAlignment.Far
        );
        _tags.StructureBuilder.End();
    }
}

using System.Reflection;
using PdfSharp.Fonts;

namespace Remedos.Server.Reports;

/// <summary>The page's own typeface, embedded; and this machine's DejaVu for letters that it does not have.</summary>
internal sealed class PdfFonts : IFontResolver
{
    public const string Own = "report",
        Wide = "wide";

    private const string WideFolder = "/usr/share/fonts/truetype/dejavu/";

    /// <summary>Last letter of the Latin scripts; then come those that the own face lacks.</summary>
    private const char LastLatin = 'ɏ';

    private const char PunctuationFrom = '\u2000',
        SymbolsFrom = '\u2100';

    private static readonly bool HasWide = File.Exists(WideFolder + "DejaVuSans.ttf") && File.Exists(WideFolder + "DejaVuSans-Bold.ttf");

    /// <summary>The face for a text.</summary>
    public static string FaceOf(string text) =>
        HasWide && text.Any(letter => letter > LastLatin && letter is < PunctuationFrom or >= SymbolsFrom) ? Wide : Own;

    public byte[] GetFont(string faceName)
    {
        if (faceName.StartsWith("DejaVu", StringComparison.Ordinal))
        {
            return File.ReadAllBytes($"{WideFolder}{faceName}.ttf");
        }

        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream($"Remedos.Server.Reports.Fonts.{faceName}.ttf")!;
        using MemoryStream whole = new();
        stream.CopyTo(whole);
        return whole.ToArray();
    }

    public FontResolverInfo? ResolveTypeface(string familyName, bool isBold, bool isItalic) =>
        familyName switch
        {
            Wide => new FontResolverInfo(isBold ? "DejaVuSans-Bold" : "DejaVuSans"),
            _ => new FontResolverInfo($"AtkinsonHyperlegibleNext-{(isBold ? "Bold" : "Regular")}"),
        };

    /// <summary>Tells the library once; a process has one resolver.</summary>
    public static void Use() => GlobalFontSettings.FontResolver ??= new PdfFonts();
}

using Microsoft.AspNetCore.Http.HttpResults;
using QRCoder;

namespace Remedos.Server.Hosting;

/// <summary>A text as a picture that a telephone or a scanner reads.</summary>
internal static class QrPicture
{
    public static ContentHttpResult Of(string text)
    {
        using QRCodeData code = QRCodeGenerator.GenerateQrCode(text, QRCodeGenerator.ECCLevel.M);
        using SvgQRCode picture = new(code);
        return TypedResults.Content(
            picture.GetGraphic(4, "#000000", "#ffffff", drawQuietZones: true, SvgQRCode.SizingMode.ViewBoxAttribute),
            "image/svg+xml"
        );
    }
}

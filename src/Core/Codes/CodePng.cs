using QRCoder;

namespace PreciseBeacon.Core.Codes;

/// <summary>Draws a code as a black-and-white PNG.</summary>
public static class CodePng
{
    /// <param name="text">What the code says.</param>
    /// <param name="correction">The correction level.</param>
    /// <param name="dotsPerModule">Dots on a module's side, at least 1.</param>
    public static byte[] Draw(string text, CorrectionLevel correction, int dotsPerModule)
    {
        using var data = QRCodeGenerator.GenerateQrCode(text, (QRCodeGenerator.ECCLevel)correction);
        using var code = new PngByteQRCode(data);
        return code.GetGraphic(dotsPerModule);
    }
}

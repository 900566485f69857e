using SkiaSharp;

namespace PreciseBeacon.Core.Codes;

/// <summary>Draws a code as a PDF page of its own size, in outlines.</summary>
public static class CodePdf
{
    /// <summary>Points to a millimetre (PDF, 8.3.2.3: 72 to an inch).</summary>
    public const float PointsPerMillimetre = 72 / 25.4f;

    public static byte[] Draw(CodeDrawing drawing, DateTimeOffset now)
    {
        using var file = new MemoryStream();
        float scale = (float)drawing.Style.Millimetres * PointsPerMillimetre / drawing.Width;
        using (
            var document = SKDocument.CreatePdf(
                file,
                new SKDocumentPdfMetadata
                {
                    Title = drawing.Says,
                    Creation = now.UtcDateTime,
                    RasterDpi = drawing.Style.DotsPerInch,
                    EncodingQuality = 101,
                }
            )
        )
        {
            var canvas = document.BeginPage(drawing.Width * scale, drawing.Height * scale);
            canvas.Scale(scale);
            using var logo = drawing.Style.Logo is { } png ? SKImage.FromEncodedData(png) : null;
            drawing.Draw(canvas, logo);
            document.EndPage();
            document.Close();
        }

        return file.ToArray();
    }
}

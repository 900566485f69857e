using SkiaSharp;

namespace PreciseBeacon.Core.Codes;

/// <summary>A picture of a code as a phone may see it, in greys, to be read by an independent reader.</summary>
/// <param name="Name">How it is seen.</param>
/// <param name="Width">Dots across.</param>
/// <param name="Height">Dots down.</param>
/// <param name="Greys">One octet a dot, row by row, 0 for black.</param>
public sealed record ScanTrial(string Name, int Width, int Height, byte[] Greys)
{
    public const string AsDrawn = "as drawn";
    public const string FromAfar = "from afar";
    public const string OutOfFocus = "out of focus";
    public const string Askew = "held askew";
    public const string AsPicture = "as a picture of this size";

    private const int DrawnDots = 8;

    /// <summary>Dots a camera has for a module when a code is as far away as it can be (from memory: readers want two and more).</summary>
    private const float AfarDots = 2.5f;
    private const float BlurModules = 0.35f;
    private const float AskewDegrees = 17;

    /// <summary>The trials a code has to pass, the plain one first.</summary>
    public static IEnumerable<ScanTrial> Of(CodeDrawing drawing)
    {
        using var drawn = CodePicture.Image(drawing, DrawnDots);
        yield return Seen(AsDrawn, drawn, 1, 0, 0);
        yield return Seen(FromAfar, drawn, AfarDots / DrawnDots, 0, 0);
        yield return Seen(OutOfFocus, drawn, 0.5f, 0, BlurModules * DrawnDots / 2);
        yield return Seen(Askew, drawn, 0.5f, AskewDegrees, 0);
    }

    /// <summary>
    /// The picture as it is handed out, dot for dot; null where it has as many dots to a module as the trials above, which say
    /// the same of it.
    /// </summary>
    /// <param name="drawing">The code.</param>
    /// <param name="format">PNG or JPG.</param>
    public static ScanTrial? OfPicture(CodeDrawing drawing, CodeFormat format)
    {
        int dots = CodeSize.Of(drawing.Width, drawing.Style.Millimetres, drawing.Style.DotsPerInch).DotsPerModule;
        if (dots >= DrawnDots)
        {
            return null;
        }

        using var picture = SKImage.FromEncodedData(
            format == CodeFormat.Jpg ? CodePicture.Jpeg(drawing, dots) : CodePicture.Png(drawing, dots)
        );
        return Seen(AsPicture, picture, 1, 0, 0);
    }

    private static ScanTrial Seen(string name, SKImage drawn, float scale, float degrees, float blur)
    {
        // On a table: a little grey around, so that turned corners do not stick out of the picture.
        float room = degrees == 0 ? 8 : Math.Max(drawn.Width, drawn.Height) * scale * 0.3f;
        var (width, height) = (
            (int)Math.Ceiling((drawn.Width * scale) + (2 * room)),
            (int)Math.Ceiling((drawn.Height * scale) + (2 * room))
        );
        using var surface = SKSurface.Create(new SKImageInfo(width, height, SKColorType.Gray8, SKAlphaType.Opaque));
        var canvas = surface.Canvas;
        canvas.Clear(new SKColor(0xC8, 0xC8, 0xC8));
        canvas.RotateDegrees(degrees, width / 2f, height / 2f);
        using var filter = blur > 0 ? SKImageFilter.CreateBlur(blur, blur) : null;
        using var paint = new SKPaint { ImageFilter = filter };
        canvas.DrawImage(
            drawn,
            SKRect.Create(room, room, drawn.Width * scale, drawn.Height * scale),
            new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear),
            paint
        );
        using var seen = surface.Snapshot();
        using var dots = seen.PeekPixels();
        byte[] greys = new byte[width * height];
        for (int y = 0; y < height; y++)
        {
            dots.GetPixelSpan<byte>().Slice(y * dots.RowBytes, width).CopyTo(greys.AsSpan(y * width));
        }

        return new ScanTrial(name, width, height, greys);
    }
}

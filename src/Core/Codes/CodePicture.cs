using System.Buffers.Binary;
using System.IO.Hashing;
using SkiaSharp;

namespace PreciseBeacon.Core.Codes;

/// <summary>Draws a code in dots: a whole number of them to a module, and the true resolution written into the file, so that it prints at its size.</summary>
public static class CodePicture
{
    private const int JpegQuality = 95;
    private const decimal MetresPerInch = 0.0254m;

    /// <summary>A PNG with its resolution (PNG, 11.3.4.3 pHYs).</summary>
    public static byte[] Png(CodeDrawing drawing, int dotsPerModule)
    {
        using var image = Image(drawing, dotsPerModule);
        using var data = image.Encode(SKEncodedImageFormat.Png, 100);
        return WithResolution(data.ToArray(), drawing.Style.DotsPerInch);
    }

    /// <summary>A JPEG with its resolution (JFIF 1.02, density).</summary>
    public static byte[] Jpeg(CodeDrawing drawing, int dotsPerModule)
    {
        using var image = Image(drawing, dotsPerModule);
        using var data = image.Encode(SKEncodedImageFormat.Jpeg, JpegQuality);
        byte[] file = data.ToArray();

        // The JFIF segment comes first: unit (1 is inches) in octet 13, then both densities.
        if (file is [0xFF, 0xD8, 0xFF, 0xE0, ..])
        {
            file[13] = 1;
            BinaryPrimitives.WriteUInt16BigEndian(file.AsSpan(14), (ushort)drawing.Style.DotsPerInch);
            BinaryPrimitives.WriteUInt16BigEndian(file.AsSpan(16), (ushort)drawing.Style.DotsPerInch);
        }

        return file;
    }

    /// <summary>The drawing in dots.</summary>
    public static SKImage Image(CodeDrawing drawing, int dotsPerModule)
    {
        using var surface = SKSurface.Create(
            new SKImageInfo(drawing.Width * dotsPerModule, drawing.Height * dotsPerModule, SKColorType.Rgba8888, SKAlphaType.Opaque)
        ) ?? throw new InvalidOperationException("There is not enough memory for a picture of this size.");
        surface.Canvas.Scale(dotsPerModule);
        using var logo = drawing.Style.Logo is { } png ? SKImage.FromEncodedData(png) : null;
        drawing.Draw(surface.Canvas, logo);
        return surface.Snapshot();
    }

    private static byte[] WithResolution(byte[] png, int dotsPerInch)
    {
        // Signature and IHDR come first and have 33 octets; the resolution follows them.
        const int After = 33;
        Span<byte> chunk = stackalloc byte[21];
        BinaryPrimitives.WriteInt32BigEndian(chunk, 9);
        "pHYs"u8.CopyTo(chunk[4..]);
        int perMetre = (int)Math.Round(dotsPerInch / MetresPerInch);
        BinaryPrimitives.WriteInt32BigEndian(chunk[8..], perMetre);
        BinaryPrimitives.WriteInt32BigEndian(chunk[12..], perMetre);
        chunk[16] = 1;
        BinaryPrimitives.WriteUInt32BigEndian(chunk[17..], Crc32.HashToUInt32(chunk[4..17]));
        byte[] file = new byte[png.Length + chunk.Length];
        png.AsSpan(0, After).CopyTo(file);
        chunk.CopyTo(file.AsSpan(After));
        png.AsSpan(After).CopyTo(file.AsSpan(After + chunk.Length));
        return file;
    }
}

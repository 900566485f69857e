using System.Diagnostics;
using System.Threading.RateLimiting;
using SkiaSharp;

namespace PreciseBeacon.Web.Codes;

/// <summary>Reads a logo from a PNG, JPEG or SVG file into a PNG of moderate size.</summary>
public static class LogoFile
{
    public const int MostMegabytes = 5;

    private const int MostDots = 600;
    private const int MostDotsIn = 10_000;

    /// <summary>A logo draws in some hundredths of a second; what takes longer is no logo, or is meant to keep the server busy.</summary>
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(2);

    /// <summary>Pictures being worked at, and those waiting for it; what comes on top is sent away.</summary>
    private static readonly ConcurrencyLimiter Turns = new(
        new ConcurrencyLimiterOptions
        {
            PermitLimit = 2,
            QueueLimit = 8,
            QueueProcessingOrder = QueueProcessingOrder.OldestFirst,
        }
    );

    /// <summary>The logo; null with the reason when the file is none.</summary>
    public static async Task<(byte[]? Png, string? Problem)> ReadAsync(byte[] file, CancellationToken cancel)
    {
        using var turn = await Turns.AcquireAsync(cancellationToken: cancel);
        return turn.IsAcquired
            ? await Task.Run(() => FittedAsync(file, cancel), cancel)
            : (null, "Many logos are being drawn right now; try again in a few seconds.");
    }

    private static async Task<(byte[]? Png, string? Problem)> FittedAsync(byte[] file, CancellationToken cancel)
    {
        byte[]? picture = LooksLikeSvg(file) ? await DrawnAsync(file, cancel) : file;
        if (picture is null)
        {
            return (
                null,
                $"This SVG can’t be drawn, or not within {Patience.TotalSeconds:0} seconds; save it as a plain SVG or a PNG and upload that."
            );
        }

        using var data = SKData.CreateCopy(picture);
        using var codec = SKCodec.Create(data);
        if (codec is null || codec.EncodedFormat is not (SKEncodedImageFormat.Png or SKEncodedImageFormat.Jpeg))
        {
            return (null, "A logo is a PNG, a JPEG or an SVG; save the picture as one of them.");
        }

        // Judged by its head, before a small file unfolds into gigabytes.
        if (codec.Info.Width > MostDotsIn || codec.Info.Height > MostDotsIn)
        {
            return (null, $"The picture is {codec.Info.Width} × {codec.Info.Height} dots; use at most {MostDotsIn:N0} on each side.");
        }

        using var whole = SKBitmap.Decode(codec);
        if (whole is null)
        {
            return (null, "The picture is damaged; save it again and upload it.");
        }

        float scale = Math.Min(1, (float)MostDots / Math.Max(whole.Width, whole.Height));
        using var fitted = whole.Resize(
            new SKImageInfo(Math.Max(1, (int)(whole.Width * scale)), Math.Max(1, (int)(whole.Height * scale))),
            new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear)
        );
        using var png = fitted.Encode(SKEncodedImageFormat.Png, 100);
        return (png.ToArray(), null);
    }

    private static bool LooksLikeSvg(byte[] file) =>
        System.Text.Encoding.UTF8.GetString(file, 0, Math.Min(file.Length, 1_000)).Contains("<svg", StringComparison.OrdinalIgnoreCase);

    /// <summary>Drawn by rsvg-convert (Debian's librsvg2-bin) from its standard input, where it has no folder to load other files from.</summary>
    private static async Task<byte[]?> DrawnAsync(byte[] svg, CancellationToken cancel)
    {
        using var patience = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        patience.CancelAfter(Patience);
        Process? drawing = null;
        try
        {
            drawing = Process.Start(
                new ProcessStartInfo(
                    "rsvg-convert",
                    ["--width", $"{MostDots}", "--height", $"{MostDots}", "--keep-aspect-ratio", "--format", "png"]
                )
                {
                    RedirectStandardInput = true,
                    RedirectStandardOutput = true,
                    RedirectStandardError = true,
                }
            )!;
            using var png = new MemoryStream();
            var reading = drawing.StandardOutput.BaseStream.CopyToAsync(png, patience.Token);
            var errors = drawing.StandardError.ReadToEndAsync(patience.Token);
            await drawing.StandardInput.BaseStream.WriteAsync(svg, patience.Token);
            drawing.StandardInput.Close();
            await Task.WhenAll(reading, errors);
            await drawing.WaitForExitAsync(patience.Token);
            return drawing.ExitCode == 0 && png.Length > 0 ? png.ToArray() : null;
        }
        catch (Exception failure)
            when (failure is System.ComponentModel.Win32Exception or IOException
                || (failure is OperationCanceledException && !cancel.IsCancellationRequested)
            )
        {
            return null;
        }
        finally
        {
            if (drawing is { HasExited: false })
            {
                drawing.Kill();
            }

            drawing?.Dispose();
        }
    }
}

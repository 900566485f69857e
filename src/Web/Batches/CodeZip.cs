using System.IO.Compression;
using System.Text;
using PreciseBeacon.Core.Codes;

namespace PreciseBeacon.Web.Batches;

/// <summary>Codes as single files in a zip, to lie beside the sheet.</summary>
public static class CodeZip
{
    /// <summary>Writes the zip as the codes come.</summary>
    /// <param name="file">Where it is written.</param>
    /// <param name="codes">What each file is called, without its ending, and what its code says.</param>
    /// <param name="png">True for PNG, false for SVG.</param>
    /// <param name="millimetres">Side of a code with its quiet zone.</param>
    /// <param name="dotsPerInch">For PNG: the device the dots are for.</param>
    /// <param name="cancel">Gives up.</param>
    public static async Task WriteAsync(Stream file, IAsyncEnumerable<(string Name, string Says)> codes, bool png, decimal millimetres, int dotsPerInch, CancellationToken cancel)
    {
        using var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true);
        await foreach (var (name, says) in codes.WithCancellation(cancel))
        {
            var matrix = CodeMatrix.Of(says, CorrectionLevel.M);
            await using var entry = await zip.CreateEntry($"{name}.{(png ? "png" : "svg")}", CompressionLevel.Fastest).OpenAsync(cancel);
            await entry.WriteAsync(
                png ? CodePng.Draw(says, CorrectionLevel.M, CodeSize.Of(matrix.Side, millimetres, dotsPerInch).DotsPerModule) : Encoding.UTF8.GetBytes(CodeSvg.Draw(matrix, millimetres)), cancel);
        }
    }
}

using System.IO.Compression;
using PreciseBeacon.Core.Codes;

namespace PreciseBeacon.Web.Batches;

/// <summary>Codes as single files in a zip, to lie beside the sheet.</summary>
public static class CodeZip
{
    /// <summary>Writes the zip.</summary>
    /// <param name="codes">What each file is called, without its ending, and what its code says.</param>
    /// <param name="png">True for PNG, false for SVG.</param>
    /// <param name="millimetres">Side of a code with its quiet zone.</param>
    /// <param name="dotsPerInch">For PNG: the device the dots are for.</param>
    public static byte[] Write(IEnumerable<(string Name, string Says)> codes, bool png, decimal millimetres, int dotsPerInch)
    {
        using var file = new MemoryStream();
        using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (name, says) in codes)
            {
                var matrix = CodeMatrix.Of(says, CorrectionLevel.M);
                using var entry = zip.CreateEntry($"{name}.{(png ? "png" : "svg")}", CompressionLevel.Fastest).Open();
                if (png)
                {
                    entry.Write(CodePng.Draw(says, CorrectionLevel.M, CodeSize.Of(matrix.Side, millimetres, dotsPerInch).DotsPerModule));
                }
                else
                {
                    using var text = new StreamWriter(entry);
                    text.Write(CodeSvg.Draw(matrix, millimetres));
                }
            }
        }

        return file.ToArray();
    }
}

using System.IO.Compression;
using PreciseBeacon.Core.Codes;

namespace PreciseBeacon.Web.Codes;

/// <summary>Codes as single files in a zip.</summary>
public static class CodeZip
{
    /// <summary>Writes the zip as the codes come.</summary>
    /// <param name="file">Where it is written.</param>
    /// <param name="codes">What each file is called, without its ending, and its code.</param>
    /// <param name="format">The files' format.</param>
    /// <param name="now">Written into formats that say when they were made.</param>
    /// <param name="cancel">Gives up.</param>
    public static async Task WriteAsync(
        Stream file,
        IAsyncEnumerable<(string Name, CodeDrawing Code)> codes,
        CodeFormat format,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        using var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true);
        string ending = CodeFile.EndingOf(format);
        await foreach (var (name, code) in codes.WithCancellation(cancel))
        {
            await using var entry = await zip.CreateEntry($"{name}{ending}", CompressionLevel.Fastest).OpenAsync(cancel);
            await entry.WriteAsync(CodeFile.Draw(code, format, now), cancel);
        }
    }
}

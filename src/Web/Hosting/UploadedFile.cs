using Microsoft.AspNetCore.Http.HttpResults;
using PreciseBeacon.Core.Outcomes;

namespace PreciseBeacon.Web.Hosting;

/// <summary>A file handed over as the body of a request, read up to a limit.</summary>
public static class UploadedFile
{
    /// <summary>Reads the body.</summary>
    /// <param name="context">The request.</param>
    /// <param name="mostMegabytes">Most of it that is read.</param>
    /// <param name="what">What the file is, as the beginning of a sentence.</param>
    /// <param name="cancel">Gives up reading.</param>
    public static async Task<(MemoryStream File, Refusal? Refusal)> ReadAsync(
        HttpContext context,
        int mostMegabytes,
        string what,
        CancellationToken cancel
    )
    {
        var file = new MemoryStream();
        byte[] buffer = new byte[1 << 16];
        for (
            int read = await context.Request.Body.ReadAsync(buffer, cancel);
            read > 0;
            read = await context.Request.Body.ReadAsync(buffer, cancel)
        )
        {
            file.Write(buffer, 0, read);
            if (file.Length > (long)mostMegabytes << 20)
            {
                return (file, Refusal.TooLarge("file-too-large", $"{what} has at most {mostMegabytes} MB."));
            }
        }

        file.Position = 0;
        return (file, null);
    }

    /// <summary>True for files that begin like a zip, as XLSX workbooks do; the reading place is not moved.</summary>
    public static bool IsZip(MemoryStream file) => file.Length > 4 && file.GetBuffer().AsSpan(0, 2).SequenceEqual("PK"u8);
}

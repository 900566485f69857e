using System.Globalization;
using System.IO.Compression;
using System.Text;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Batches;

/// <summary>Files to try a place with, whose links lead to the workspace's own site, the one with the most pages.</summary>
public static partial class SampleFiles
{
    private const string LogDay = "dd/MMM/yyyy";

    /// <summary>Where the links of the files as they ship lead.</summary>
    private const string Shipped = "https://marrowmere.example";

    private static readonly Dictionary<string, string> Types = new(StringComparer.Ordinal)
    {
        ["community-groups.csv"] = "text/csv; charset=utf-8",
        ["ad-export.xlsx"] = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
        ["newsletter.html"] = "text/plain; charset=utf-8", // never a page of ours
        ["old-links.csv"] = "text/csv; charset=utf-8",
        ["costs.csv"] = "text/csv; charset=utf-8",
        ["figures.csv"] = "text/csv; charset=utf-8",
        ["access.log"] = "text/plain; charset=utf-8",
    };

    public static void MapSampleFiles(this IEndpointRouteBuilder app) =>
        app.MapGet("/api/v1/samples/{name}", ReadAsync)
            .WithName("ReadSampleFile")
            .WithSummary("Gives a file to try, its links leading to the workspace's own site.")
            .For(Caller.Readers)
            .WithTags("Batches")
            .Produces(StatusCodes.Status200OK, contentType: "application/octet-stream");

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> ReadAsync(
        string name,
        BeaconDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        if (!Types.TryGetValue(name, out string? type))
        {
            return new Refusal(RefusalKind.Missing, "sample-unknown", "There is no sample file of this name.").ToResult();
        }

        await using var shipped = typeof(SampleFiles).Assembly.GetManifestResourceStream($"samples/{name}")!;
        using var bytes = new MemoryStream();
        await shipped.CopyToAsync(bytes, cancel);
        var own = await db
            .Sites.OrderByDescending(s => db.SitePages.Count(p => p.SiteId == s.Id))
            .ThenBy(s => s.Id)
            .SelectMany(s => s.Hosts.OrderBy(h => h.Id))
            .Select(h => new { h.Host, h.AnswersHttps })
            .FirstOrDefaultAsync(cancel);
        byte[] file = own is null ? bytes.ToArray() : LedTo(bytes, $"{(own.AnswersHttps ? "https" : "http")}://{own.Host}", name);
        return TypedResults.File(
            name.EndsWith(".log", StringComparison.Ordinal)
                ? UpTo(DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime).AddDays(-1), file)
                : file,
            type,
            name
        );
    }

    /// <summary>A log with its days moved, so that the last of them is a given one: an old log would be left out.</summary>
    private static byte[] UpTo(DateOnly last, byte[] log)
    {
        string text = Encoding.UTF8.GetString(log);
        int shift = last.DayNumber - DaysOfLog().Matches(text).Max(m => DayOf(m).DayNumber);
        return Encoding.UTF8.GetBytes(
            DaysOfLog().Replace(text, m => $"[{DayOf(m).AddDays(shift).ToString(LogDay, CultureInfo.InvariantCulture)}:")
        );

        static DateOnly DayOf(Match day) => DateOnly.ParseExact(day.Groups[1].Value, LogDay, CultureInfo.InvariantCulture);
    }

    [GeneratedRegex(@"\[(\d\d/[A-Z][a-z]{2}/\d{4}):")]
    private static partial Regex DaysOfLog();

    /// <summary>The file with its links leading to another site; a workbook is a zip of texts.</summary>
    private static byte[] LedTo(MemoryStream file, string site, string name)
    {
        if (!name.EndsWith(".xlsx", StringComparison.Ordinal))
        {
            return Encoding.UTF8.GetBytes(Led(Encoding.UTF8.GetString(file.ToArray())));
        }

        using (var book = new ZipArchive(file, ZipArchiveMode.Update, leaveOpen: true))
        {
            foreach (var entry in book.Entries.Where(e => e.FullName.EndsWith(".xml", StringComparison.Ordinal)))
            {
                string text;
                using (var reader = new StreamReader(entry.Open(), Encoding.UTF8))
                {
                    text = reader.ReadToEnd();
                }

                using var writer = new StreamWriter(entry.Open(), new UTF8Encoding(false));
                writer.BaseStream.SetLength(0);
                writer.Write(Led(text));
            }
        }

        return file.ToArray();

        string Led(string text) => text.Replace(Shipped, site, StringComparison.Ordinal);
    }
}

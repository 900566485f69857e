using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.WebUtilities;
using Microsoft.EntityFrameworkCore;
using Microsoft.Net.Http.Headers;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Accounts;
using PreciseBeacon.Web.Hosting;
using RequestSizeLimitAttribute = Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute;

namespace PreciseBeacon.Web.AccessLogs;

/// <summary>Access logs in, visits out.</summary>
public static class AccessLogEndpoints
{
    private const long MostOctets = 1L << 30;
    private const int LongestName = 200;
    private const int LongestField = 100;
    private const int MostFields = 10;

    /// <summary>So many logs of a workspace may wait; each takes up to 1 GB of the server's disk.</summary>
    private const int MostWaiting = 10;

    private const int MostListed = 50;
    private const string What = "access log";

    /// <summary>ENOSPC (errno.h).</summary>
    private const int NoSpaceLeft = 28;

    /// <summary>Most files answer within it what came of them; longer ones are asked about again.</summary>
    private static readonly TimeSpan LongestWait = TimeSpan.FromSeconds(20);

    private static readonly TimeSpan Look = TimeSpan.FromMilliseconds(100);

    public static void MapAccessLogs(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/imports/access-log").WithTags("Measuring");
        group
            .MapPost("", TakeAsync)
            .WithName("ReadAccessLog")
            .WithSummary("Reads an access log in the combined format into visits.")
            .For(Caller.Builders)
            .WithDescription(
                "A form (multipart) with the log as “file”, plain or packed with gzip, at most 1 GB; where there are several sites, the one whose server wrote it as “site”: its name, one of its hosts or its id; and “measuredDays”: “keep” where left out, or “leaveOut” for days on which the site's pages measured themselves, whose views would count twice. Asks again under its id what came of it where that takes longer than “wait”."
            )
            .Produces<AccessLogAnswer>()
            .ProducesProblem(StatusCodes.Status400BadRequest)
            .ProducesProblem(StatusCodes.Status413PayloadTooLarge)
            .WithMetadata(new RequestSizeLimitAttribute(MostOctets + (1 << 20)));
        group
            .MapGet("", ListAsync)
            .WithName("ListAccessLogs")
            .WithSummary("Lists access logs that are read or were, the newest first.")
            .For(Caller.Readers);
        group
            .MapGet("/{id:guid}", OneAsync)
            .WithName("ReadAccessLogProgress")
            .WithSummary("Tells how far an access log is read.")
            .For(Caller.Readers);
        group
            .MapDelete("/{id:guid}", CancelAsync)
            .WithName("CancelAccessLog")
            .WithSummary("Stops reading an access log; what was read stays.")
            .For(Caller.Builders);
    }

    private static async Task<IResult> TakeAsync(
        HttpContext context,
        BeaconDb db,
        AccessLogStore store,
        AccessLogWorker worker,
        AuditLog auditLog,
        TimeProvider clock,
        CancellationToken cancel,
        double? wait = null
    )
    {
        if (await db.LogReadings.CountAsync(r => r.State == LogReadingState.Reading, cancel) >= MostWaiting)
        {
            return Refusal
                .TooOften("too-many-logs", $"{MostWaiting} logs wait to be read already; send this one when one of them is done.")
                .ToResult();
        }

        var id = Guid.CreateVersion7();
        try
        {
            var sent = await ReceiveAsync(context.Request, id, store, cancel);
            var outcome = await AddAsync(id, sent, db, auditLog, clock, cancel);
            if (outcome.Refusal is { } refusal)
            {
                store.Delete(id);
                return refusal.ToResult();
            }

            store.Complete(id);
            worker.Wake();
        }
        catch (BadHttpRequestException tooLarge) when (tooLarge.StatusCode == StatusCodes.Status413PayloadTooLarge)
        {
            store.Delete(id);
            return TooLarge().ToResult();
        }
        catch (IOException full) when ((full.HResult & 0xFF) == NoSpaceLeft)
        {
            store.Delete(id);
            return Refusal
                .TooLarge("no-room", "The server has no room for this file right now; pack it with gzip, or try again later.")
                .ToResult();
        }
        catch (Exception broken) when (broken is InvalidDataException or IOException)
        {
            store.Delete(id);
            return Refusal.Invalid("file-missing", "Send the log as “file” of a form, whole.").ToResult();
        }
        catch
        {
            store.Delete(id);
            throw;
        }

        // Who sends a small file has the answer at once.
        var longest = wait is >= 0 && wait < LongestWait.TotalSeconds ? TimeSpan.FromSeconds(wait.Value) : LongestWait;
        long began = clock.GetTimestamp();
        var reading = await FindAsync(db, id, cancel);
        while (reading!.State == LogReadingState.Reading && clock.GetElapsedTime(began) < longest)
        {
            await Task.Delay(Look, cancel);
            reading = await FindAsync(db, id, cancel);
        }

        context.Response.Headers.Location = $"/api/v1/imports/access-log/{id}";
        return TypedResults.Ok(AnswerOf(reading));
    }

    private static async Task<SentLog> ReceiveAsync(HttpRequest request, Guid id, AccessLogStore store, CancellationToken cancel)
    {
        if (
            !MediaTypeHeaderValue.TryParse(request.ContentType, out var type)
            || !type.MediaType.Equals("multipart/form-data", StringComparison.OrdinalIgnoreCase)
            || HeaderUtilities.RemoveQuotes(type.Boundary).Value is not { Length: > 0 } boundary
        )
        {
            return new SentLog();
        }

        // Straight to the disk: a form would hold the file twice.
        var sent = new SentLog();
        var parts = new MultipartReader(boundary, request.Body);
        while (await parts.ReadNextSectionAsync(cancel) is { } part)
        {
            if (part.AsFileSection() is { Name: "file", FileStream: { } stream } file)
            {
                await using var kept = store.Begin(id);
                await stream.CopyToAsync(kept, cancel);
                sent = sent with { FileName = Path.GetFileName(file.FileName), Octets = kept.Length };
            }
            else if (part.AsFormDataSection() is { } field && sent.Fields.Count < MostFields)
            {
                using var text = new StreamReader(part.Body);
                char[] value = new char[LongestField];
                sent.Fields[field.Name] = new string(value, 0, await text.ReadBlockAsync(value, cancel));
            }
        }

        return sent;
    }

    private static async Task<Outcome<LogReading>> AddAsync(
        Guid id,
        SentLog sent,
        BeaconDb db,
        AuditLog auditLog,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        if (sent.Octets == 0)
        {
            return Refusal.Invalid("file-missing", "There is no file, or it is empty; choose an access log.");
        }

        if (sent.Octets > MostOctets)
        {
            return TooLarge();
        }

        string named = sent.Fields.GetValueOrDefault("site", "");
        var sites = await db.Sites.Include(s => s.Hosts).OrderBy(s => s.Name).ToListAsync(cancel);
        var site =
            named.Length > 0 ? sites.Find(s => s.Name == named || s.Hosts.Any(h => h.Host == named) || s.Id.ToString() == named)
            : sites.Count == 1 ? sites[0]
            : null;
        if (site is not { Hosts.Count: > 0 })
        {
            return Refusal.Invalid(
                "site-missing",
                sites.Count == 0 ? "There is no site yet; add one under Workspace, Sites."
                    : named.Length > 0 ? $"No site is called “{named}”; give the name or a host of one."
                    : "Say in “site” which site's server wrote the log: its name or one of its hosts."
            );
        }

        if (sent.Fields.GetValueOrDefault("measuredDays", Keep) is not (Keep or LeaveOut) and var other)
        {
            return Refusal.Invalid("measured-days-refused", $"“measuredDays” is “{Keep}” or “{LeaveOut}”, not “{other}”.");
        }

        var reading = new LogReading
        {
            Id = id,
            SiteId = site.Id,
            FileName = sent.FileName.Length is 0 or > LongestName ? "access.log" : sent.FileName,
            Octets = sent.Octets,
            LeavesMeasuredDays = sent.Fields.GetValueOrDefault("measuredDays") == LeaveOut,
            AddedBy = auditLog.Who,
            AddedAt = clock.GetUtcNow(),
        };
        db.LogReadings.Add(reading);
        auditLog.Add(What, id, null, new { reading.FileName, Site = site.Name });
        await db.SaveChangesAsync(cancel);
        return reading;
    }

    private const string Keep = "keep";
    private const string LeaveOut = "leaveOut";

    private static async Task<Ok<List<AccessLogAnswer>>> ListAsync(BeaconDb db, CancellationToken cancel) =>
        TypedResults.Ok(
            (
                await db
                    .LogReadings.AsNoTracking()
                    .Include(r => r.Site)
                    .OrderByDescending(r => r.AddedAt)
                    .ThenBy(r => r.Id)
                    .Take(MostListed)
                    .ToListAsync(cancel)
            ).ConvertAll(AnswerOf)
        );

    private static async Task<Outcome<AccessLogAnswer>> OneAsync(Guid id, BeaconDb db, CancellationToken cancel) =>
        await FindAsync(db, id, cancel) is { } reading ? AnswerOf(reading) : Refusal.NotFound(What);

    private static async Task<Outcome<AccessLogAnswer>> CancelAsync(Guid id, BeaconDb db, TimeProvider clock, CancellationToken cancel)
    {
        await db
            .LogReadings.Where(r => r.Id == id && r.State == LogReadingState.Reading)
            .ExecuteUpdateAsync(
                r => r.SetProperty(x => x.State, LogReadingState.Cancelled).SetProperty(x => x.EndedAt, clock.GetUtcNow()),
                cancel
            );
        return await OneAsync(id, db, cancel);
    }

    private static Task<LogReading?> FindAsync(BeaconDb db, Guid id, CancellationToken cancel) =>
        db.LogReadings.AsNoTracking().Include(r => r.Site).SingleOrDefaultAsync(r => r.Id == id, cancel);

    private static Refusal TooLarge() =>
        Refusal.TooLarge("file-too-large", $"A log has at most {MostOctets >> 30} GB; pack it with gzip, or send it in parts.");

    private static AccessLogAnswer AnswerOf(LogReading reading) =>
        new(
            reading.Id,
            reading.FileName,
            reading.Site!.Name,
            reading.State,
            reading.Fault,
            reading.Octets == 0 ? 1 : Math.Min(1, (double)reading.OctetsRead / reading.Octets),
            reading.Lines,
            reading.Kept,
            JsonSerializer.Deserialize<SortedDictionary<string, long>>(reading.Skipped)!,
            reading.FirstDay,
            reading.LastDay,
            reading.AddedBy,
            reading.AddedAt,
            reading.EndedAt
        );

    private sealed record SentLog
    {
        public string FileName { get; init; } = "";

        public long Octets { get; init; }

        public Dictionary<string, string> Fields { get; } = new(StringComparer.Ordinal);
    }
}

/// <summary>What came of an access log, or has come so far.</summary>
/// <param name="Id">Asks again how far it is.</param>
/// <param name="FileName">The file's name.</param>
/// <param name="Site">The site's name.</param>
/// <param name="State">How far it has come.</param>
/// <param name="Fault">Why it failed; null where it did not.</param>
/// <param name="Done">The share of the file that is read, 0 to 1.</param>
/// <param name="Read">Lines read.</param>
/// <param name="Kept">Lines that became page views.</param>
/// <param name="Skipped">Lines left out, by why.</param>
/// <param name="FirstDay">The first day with a page view from it, in the workspace's zone; null where there is none.</param>
/// <param name="LastDay">The last day with a page view from it; null where there is none.</param>
/// <param name="AddedBy">Who sent it.</param>
/// <param name="AddedAt">When it was sent.</param>
/// <param name="EndedAt">When it was read, stopped or failed; null while it is read.</param>
public sealed record AccessLogAnswer(
    Guid Id,
    string FileName,
    string Site,
    LogReadingState State,
    LogReadingFault? Fault,
    double Done,
    long Read,
    long Kept,
    SortedDictionary<string, long> Skipped,
    DateOnly? FirstDay,
    DateOnly? LastDay,
    string AddedBy,
    DateTimeOffset AddedAt,
    DateTimeOffset? EndedAt
);

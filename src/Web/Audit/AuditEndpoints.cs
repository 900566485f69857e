using System.Globalization;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Audit;

/// <summary>Who changed what, for owners. Nothing in the product changes or deletes an entry.</summary>
public static class AuditEndpoints
{
    private const int UsualSize = 50;
    private const int LargestSize = 200;
    private const int MostInFile = 100_000;

    public static void MapAudit(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Audit");
        group
            .MapGet("/changes", ListAsync)
            .WithName("ListChanges")
            .WithSummary("Lists who changed what, the newest first.")
            .For(Caller.Owner);
        group
            .MapGet("/changes.csv", CsvAsync)
            .WithName("ExportChanges")
            .WithSummary("Gives who changed what as CSV.")
            .For(Caller.Owner)
            .Produces(StatusCodes.Status200OK, contentType: "text/csv");
    }

    private static async Task<Outcome<ChangesAnswer>> ListAsync(
        [AsParameters] AuditQuery query,
        BeaconDb db,
        CancellationToken cancel,
        Guid? olderThan = null,
        int size = UsualSize
    )
    {
        size = Math.Clamp(size, 1, LargestSize);
        var (found, refusal) = await query.FindAsync(db, cancel);
        if (found is null)
        {
            return refusal!;
        }

        // Ids are ordered by time (RFC 9562, section 5.7), so a page goes on where the last one ended, however much has come since.
        var page = await found
            .Where(c => olderThan == null || c.Id.CompareTo(olderThan.Value) < 0)
            .OrderByDescending(c => c.Id)
            .Take(size + 1)
            .ToListAsync(cancel);
        bool first = olderThan is null;
        return new ChangesAnswer(
            [.. page.Take(size).Select(AnswerOf)],
            page.Count > size ? page[size - 1].Id : null,
            first ? await db.ChangeLog.Select(c => c.Who).Distinct().OrderBy(w => w).ToListAsync(cancel) : [],
            first ? await db.ChangeLog.Select(c => c.What).Distinct().OrderBy(w => w).ToListAsync(cancel) : []
        );
    }

    private static async Task<IResult> CsvAsync([AsParameters] AuditQuery query, BeaconDb db, CancellationToken cancel)
    {
        var (found, refusal) = await query.FindAsync(db, cancel);
        if (found is null)
        {
            return refusal!.ToResult();
        }

        var entries = await found.OrderByDescending(c => c.Id).Take(MostInFile + 1).ToListAsync(cancel);
        if (entries.Count > MostInFile)
        {
            return Refusal
                .Unacceptable("changes-many", $"A file holds {MostInFile:N0} changes, and there are more; choose fewer days.")
                .ToResult();
        }

        IEnumerable<IReadOnlyList<string>> lines =
        [
            ["at", "who", "what", "thing", "together", "before", "after"],
            .. entries.Select(e =>
                (IReadOnlyList<string>)
                    [
                        e.At.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", CultureInfo.InvariantCulture),
                        e.Who,
                        e.What,
                        e.ThingId.ToString(),
                        e.ChangeId?.ToString() ?? "",
                        e.Before ?? "",
                        e.After ?? "",
                    ]
            ),
        ];
        return Results.Bytes(OwnTable.Csv(lines), OwnTable.CsvType, "changes.csv");
    }

    private static ChangeAnswer AnswerOf(ChangeLogEntry entry) =>
        new(
            entry.Id,
            entry.At,
            entry.Who,
            entry.What,
            entry.ThingId,
            entry.ChangeId,
            entry.Before is null ? null : JsonNode.Parse(entry.Before),
            entry.After is null ? null : JsonNode.Parse(entry.After)
        );
}

/// <summary>Which changes are wanted.</summary>
public sealed record AuditQuery
{
    /// <summary>Only by this person or key.</summary>
    [FromQuery(Name = "who")]
    public string? Who { get; init; }

    /// <summary>Only of this kind of thing, such as <c>link-route</c>.</summary>
    [FromQuery(Name = "what")]
    public string? What { get; init; }

    /// <summary>Only of this thing, by its id.</summary>
    [FromQuery(Name = "thing")]
    public Guid? Thing { get; init; }

    /// <summary>The first day, in the workspace's zone.</summary>
    [FromQuery(Name = "from")]
    public DateOnly? From { get; init; }

    /// <summary>The last day.</summary>
    [FromQuery(Name = "to")]
    public DateOnly? To { get; init; }

    internal async Task<Outcome<IQueryable<ChangeLogEntry>>> FindAsync(BeaconDb db, CancellationToken cancel)
    {
        if (From > To)
        {
            return Refusal.Invalid("range-refused", "The range ends before it begins; choose other days.");
        }

        var found = db.ChangeLog.AsNoTracking();
        string? who = TypedText.OrNull(Who),
            what = TypedText.OrNull(What);
        found = who is null ? found : found.Where(c => c.Who == who);
        found = what is null ? found : found.Where(c => c.What == what);
        found = Thing is { } thing ? found.Where(c => c.ThingId == thing) : found;
        if (From is null && To is null)
        {
            return Outcome.Of(found);
        }

        string zone = await db.Workspaces.Where(w => w.Id == db.CurrentWorkspaceId).Select(w => w.TimeZone).SingleAsync(cancel);
        if (From is { } from)
        {
            var begin = WorkspaceMoment.Read(from.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture), zone)!.Value.ToUniversalTime();
            found = found.Where(c => c.At >= begin);
        }

        if (To is { } to && to < DateOnly.MaxValue)
        {
            var end = WorkspaceMoment
                .Read(to.AddDays(1).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture), zone)!
                .Value.ToUniversalTime();
            found = found.Where(c => c.At < end);
        }

        return Outcome.Of(found);
    }
}

/// <summary>Changes.</summary>
/// <param name="Changes">The newest first.</param>
/// <param name="Next">What to ask for after these; null where there are no more.</param>
/// <param name="People">Everybody who ever changed something, by name; empty on later pages.</param>
/// <param name="Kinds">Everything that was ever changed; empty on later pages.</param>
public sealed record ChangesAnswer(
    IReadOnlyList<ChangeAnswer> Changes,
    Guid? Next,
    IReadOnlyList<string> People,
    IReadOnlyList<string> Kinds
);

/// <summary>A change.</summary>
/// <param name="Who">Name of the person or key.</param>
/// <param name="What">What kind of thing was changed.</param>
/// <param name="ThingId">Which of them.</param>
/// <param name="Together">Shared by what was changed in one go; null for a change by itself.</param>
/// <param name="Before">What it said before; null for something new.</param>
/// <param name="After">What it says after; null for something gone.</param>
public sealed record ChangeAnswer(
    Guid Id,
    DateTimeOffset At,
    string Who,
    string What,
    Guid ThingId,
    Guid? Together,
    JsonNode? Before,
    JsonNode? After
);

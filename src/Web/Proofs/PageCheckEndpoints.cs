using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Proofs;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Proofs;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Proofs;

/// <summary>Checks of the pages that links lead to.</summary>
public static class PageCheckEndpoints
{
    private const int MostDays = 90;
    private const int LongestReason = 300;
    private const string What = "page-check";

    public static void MapPageChecks(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/page-checks").WithTags("Proof");
        group
            .MapGet("", ReadAsync)
            .WithName("ReadPageChecks")
            .WithSummary("Lists pages that links lead to, with what was found.")
            .For(Caller.Readers);
        group
            .MapPost("/run", StartAsync)
            .WithName("StartPageChecks")
            .WithSummary("Checks all pages now, or those of one sheet’s links.")
            .For(Caller.Builders);
        group.MapDelete("/run", CancelAsync).WithName("CancelPageChecks").WithSummary("Ends the run that goes on.").For(Caller.Builders);
        group
            .MapPut("/schedule", ScheduleAsync)
            .WithName("SchedulePageChecks")
            .WithSummary("Sets how often pages are checked.")
            .For(Caller.Owner);
        group
            .MapPut("/mute", MuteAsync)
            .WithName("MutePageFinding")
            .WithSummary("Mutes a finding with a reason, or unmutes it.")
            .For(Caller.Builders);
    }

    private static async Task<Outcome<PageChecksAnswer>> ReadAsync(
        BeaconDb db,
        PageCheckBook book,
        CancellationToken cancel,
        Guid? sheet = null
    ) =>
        await IsThereAsync(db, sheet, cancel)
            ? PageChecksAnswer.Of(await book.ReadAsync(db.CurrentWorkspaceId!.Value, sheet, cancel))
            : Refusal.NotFound("batch");

    private static async Task<bool> IsThereAsync(BeaconDb db, Guid? sheet, CancellationToken cancel) =>
        sheet is not { } id || await db.Batches.AnyAsync(b => b.Id == id, cancel);

    private static async Task<Refusal?> StartAsync(
        BeaconDb db,
        PageCheckBook book,
        AuditLog auditLog,
        TimeProvider clock,
        CancellationToken cancel,
        Guid? sheet = null
    ) =>
        !await IsThereAsync(db, sheet, cancel) ? Refusal.NotFound("batch")
        : await book.StartAsync(db.CurrentWorkspaceId!.Value, auditLog.Who, sheet, clock.GetUtcNow(), cancel) ? null
        : Refusal.Conflict("run-underway", "Pages are being checked already; wait until that is done, or cancel it.");

    private static async Task<Refusal?> CancelAsync(BeaconDb db, PageCheckBook book, TimeProvider clock, CancellationToken cancel) =>
        await book.CancelAsync(db.CurrentWorkspaceId!.Value, clock.GetUtcNow(), cancel)
            ? null
            : Refusal.Conflict("no-run", "No check is going on; it has ended already.");

    private static async Task<Refusal?> ScheduleAsync(
        PageCheckSchedule request,
        BeaconDb db,
        PageCheckBook book,
        AuditLog auditLog,
        CancellationToken cancel
    )
    {
        if (request.Days is < 1 or > MostDays)
        {
            return Refusal.Invalid("days-refused", $"Pages are checked every 1 to {MostDays} days, or never.");
        }

        var workspace = db.CurrentWorkspaceId!.Value;
        var before = await book.ReadAsync(workspace, null, cancel);
        await book.SetScheduleAsync(workspace, request.Days, cancel);
        auditLog.Add($"{What}-schedule", workspace, new { before.Days }, new { request.Days });
        await db.SaveChangesAsync(cancel);
        return null;
    }

    private static async Task<Refusal?> MuteAsync(
        PageFindingMute request,
        BeaconDb db,
        PageCheckBook book,
        FindingBook findings,
        AuditLog auditLog,
        CancellationToken cancel
    )
    {
        string? reason = string.IsNullOrWhiteSpace(request.Reason) ? null : request.Reason.Trim();
        if (reason?.Length > LongestReason)
        {
            return Refusal.Unacceptable("reason-long", $"A reason has at most {LongestReason} characters; shorten it.");
        }

        var workspace = db.CurrentWorkspaceId!.Value;
        if (!await book.MuteAsync(workspace, request.Page ?? "", request.Rule ?? "", reason is null ? null : auditLog.Who, reason, cancel))
        {
            return Refusal.NotFound("finding");
        }

        auditLog.Add(
            $"{What}-mute",
            workspace,
            null,
            new
            {
                request.Page,
                request.Rule,
                Reason = reason,
            }
        );
        await db.SaveChangesAsync(cancel);
        await findings.MarkDueAsync(workspace, cancel);
        return null;
    }
}

/// <summary>How often pages are checked.</summary>
/// <param name="Days">Every so many days, 1 to 90; null for never.</param>
public sealed record PageCheckSchedule(int? Days);

/// <summary>A finding that is muted, or no longer.</summary>
/// <param name="Page">The page's address, as listed.</param>
/// <param name="Rule">The finding's rule.</param>
/// <param name="Reason">Why it is muted, up to 300 characters; null takes it up again.</param>
public sealed record PageFindingMute(string? Page, string? Rule, string? Reason);

/// <summary>Checks of the pages that links lead to.</summary>
/// <param name="Days">Every so many days by schedule; null for never.</param>
/// <param name="Run">The latest run; null before the first.</param>
/// <param name="History">The latest runs that ended, the newest first, at most 20.</param>
/// <param name="Pages">The pages, those with the gravest findings first, then those with the most links.</param>
public sealed record PageChecksAnswer(
    int? Days,
    PageCheckProgress? Run,
    IReadOnlyList<PageCheckProgress> History,
    IReadOnlyList<CheckedPageAnswer> Pages
)
{
    internal static PageChecksAnswer Of(PageChecksRead read) =>
        new(
            read.Days,
            read.Runs is [var latest, ..] ? latest : null,
            [.. read.Runs.Where(r => r.FinishedAt is not null)],
            [
                .. read
                    .Pages.OrderByDescending(p =>
                        p.Findings.Where(f => f.GoneAt is null && f.MutedBy is null)
                            .Select(f => (int)f.Severity + 1)
                            .DefaultIfEmpty(0)
                            .Max()
                    )
                    .Select(p => new CheckedPageAnswer(p.Page, p.Url, p.Links, p.CheckedAt, p.Title, p.Hops, p.Findings)),
            ]
        );
}

/// <summary>A page that links lead to.</summary>
/// <param name="Page">Its address without tags.</param>
/// <param name="Url">The tagged address that is fetched.</param>
/// <param name="Links">Links that lead there and go on.</param>
/// <param name="CheckedAt">When it was last checked; null for never.</param>
/// <param name="Title">Its title then; null without one.</param>
/// <param name="Hops">The requests then, in order.</param>
/// <param name="Findings">What is found, and what is gone since a fortnight, the gravest first.</param>
public sealed record CheckedPageAnswer(
    string Page,
    string Url,
    int Links,
    DateTimeOffset? CheckedAt,
    string? Title,
    IReadOnlyList<TraceHop> Hops,
    IReadOnlyList<PageFinding> Findings
);

using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Workspaces;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.ResultsPages;

/// <summary>Pages of figures for people without an account: made, changed, withdrawn, and found by whoever has the address.</summary>
public sealed class ResultPageStore(
    BeaconDb db,
    CurrentWorkspace current,
    WorkspaceReader workspaces,
    AuditLog auditLog,
    IOptions<BeaconOptions> options,
    TimeProvider clock
)
{
    /// <summary>What the audit log calls them; the entry of a link's page stands with the link.</summary>
    public const string What = "result-page";

    private const int LongestName = 100;
    private const int LongestAddress = 4_000;
    private const int Most = 500;

    /// <summary>The pages of views that were not withdrawn, the newest first.</summary>
    public async Task<List<ResultPageAnswer>> ListAsync(CancellationToken cancel)
    {
        var today = await workspaces.TodayAsync(cancel);
        var pages = await db
            .ResultPages.AsNoTracking()
            .Where(p => p.LinkId == null && p.RevokedAt == null)
            .OrderByDescending(p => p.CreatedAt)
            .ToListAsync(cancel);
        return pages.ConvertAll(p => AnswerOf(p, today));
    }

    /// <summary>Makes a page of a view.</summary>
    public async Task<Outcome<ResultPageAnswer>> MakeAsync(ResultPageRequest request, CancellationToken cancel)
    {
        var today = await workspaces.TodayAsync(cancel);
        if (Refused(request, today) is { } refusal)
        {
            return refusal;
        }

        if (await db.ResultPages.CountAsync(p => p.LinkId == null && p.RevokedAt == null, cancel) >= Most)
        {
            return Refusal.Unacceptable("result-pages-many", $"There are {Most} results pages already; withdraw one first.");
        }

        var page = NewPage();
        page.Address = (request.Address ?? "").TrimStart('?');
        Put(page, request);
        db.ResultPages.Add(page);
        auditLog.Add(What, page.Id, null, SaysOf(page));
        await db.SaveChangesAsync(cancel);
        return AnswerOf(page, today);
    }

    /// <summary>Changes what a view's page is called, whether it shows money, and when it ends. Its address stays.</summary>
    public async Task<Outcome<ResultPageAnswer>> ChangeAsync(Guid id, ResultPageRequest request, CancellationToken cancel)
    {
        var today = await workspaces.TodayAsync(cancel);
        if (await OfViewAsync(id, cancel) is not { } page)
        {
            return Refusal.NotFound("page");
        }

        if (Refused(request, today) is { } refusal)
        {
            return refusal;
        }

        object before = SaysOf(page);
        Put(page, request);
        auditLog.Add(What, id, before, SaysOf(page));
        await db.SaveChangesAsync(cancel);
        return AnswerOf(page, today);
    }

    /// <summary>Withdraws a view's page for good.</summary>
    public async Task<Refusal?> WithdrawAsync(Guid id, CancellationToken cancel)
    {
        if (await OfViewAsync(id, cancel) is not { } page)
        {
            return Refusal.NotFound("page");
        }

        page.RevokedAt = clock.GetUtcNow();
        auditLog.Add(What, id, SaysOf(page), null);
        await db.SaveChangesAsync(cancel);
        return null;
    }

    /// <summary>The page of a link that was not withdrawn; null where there is none.</summary>
    public async Task<SharedResults?> OfLinkAsync(Guid linkId, CancellationToken cancel) =>
        await NewestOfLink(linkId).AsNoTracking().FirstOrDefaultAsync(cancel) is { } page ? SharedOf(page) : null;

    /// <summary>Makes a page of a link, or changes the one there is; the address stays.</summary>
    /// <returns>Null for a link that is not there.</returns>
    public async Task<SharedResults?> ShareAsync(Guid linkId, bool onWherePage, CancellationToken cancel)
    {
        if (!await db.Links.AnyAsync(l => l.Id == linkId, cancel))
        {
            return null;
        }

        var page = await NewestOfLink(linkId).FirstOrDefaultAsync(cancel);
        if (page is null)
        {
            page = NewPage();
            (page.LinkId, page.OnWherePage) = (linkId, onWherePage);
            db.ResultPages.Add(page);
            auditLog.Add(What, linkId, null, new { Shared = true, page.OnWherePage });
        }
        else if (page.OnWherePage != onWherePage)
        {
            auditLog.Add(What, linkId, new { Shared = true, page.OnWherePage }, new { Shared = true, OnWherePage = onWherePage });
            page.OnWherePage = onWherePage;
        }

        await db.SaveChangesAsync(cancel);
        return SharedOf(page);
    }

    /// <summary>Withdraws the page of a link.</summary>
    /// <returns>False where there is none.</returns>
    public async Task<bool> WithdrawOfLinkAsync(Guid linkId, CancellationToken cancel)
    {
        var pages = await db.ResultPages.Where(p => p.LinkId == linkId && p.RevokedAt == null).ToListAsync(cancel);
        pages.ForEach(p => p.RevokedAt = clock.GetUtcNow());
        if (pages.Count > 0)
        {
            auditLog.Add(What, linkId, new { Shared = true }, null);
            await db.SaveChangesAsync(cancel);
        }

        return pages.Count > 0;
    }

    /// <summary>Finds what an address leads to; from then on the request sees that page's workspace.</summary>
    /// <returns>The page with its workspace; null when nobody has that address, no longer, or its last day is over.</returns>
    public async Task<FoundResults?> FindAsync(string token, CancellationToken cancel)
    {
        var page = await db
            .ResultPages.IgnoreQueryFilters()
            .AsNoTracking()
            .Include(p => p.Link)
            .SingleOrDefaultAsync(p => p.Token == token && p.RevokedAt == null, cancel);
        if (page is null)
        {
            return null;
        }

        current.Id = page.WorkspaceId;
        var workspace = await workspaces.ReadAsync(cancel);
        var today = workspaces.TodayIn(workspace);
        return page.EndsOn < today ? null : new FoundResults(page, workspace, today);
    }

    /// <summary>Counts one opening.</summary>
    public Task CountAsync(ResultPage page, CancellationToken cancel)
    {
        var now = clock.GetUtcNow();
        return db
            .ResultPages.Where(p => p.Id == page.Id)
            .ExecuteUpdateAsync(p => p.SetProperty(x => x.Openings, x => x.Openings + 1).SetProperty(x => x.LastOpenedAt, now), cancel);
    }

    private ResultPage NewPage() =>
        new()
        {
            Token = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16)),
            CreatedBy = auditLog.Who,
            CreatedAt = clock.GetUtcNow(),
        };

    private Task<ResultPage?> OfViewAsync(Guid id, CancellationToken cancel) =>
        db.ResultPages.SingleOrDefaultAsync(p => p.Id == id && p.LinkId == null && p.RevokedAt == null, cancel);

    private IQueryable<ResultPage> NewestOfLink(Guid linkId) =>
        db.ResultPages.Where(p => p.LinkId == linkId && p.RevokedAt == null).OrderByDescending(p => p.CreatedAt);

    private static Refusal? Refused(ResultPageRequest request, DateOnly today) =>
        string.IsNullOrWhiteSpace(request.Name) ? Refusal.Unacceptable("name-missing", "Give the page a name; its readers see it.")
        : request.Name.Trim().Length > LongestName
            ? Refusal.Unacceptable("name-long", $"A name has at most {LongestName} characters; shorten it.")
        : (request.Address ?? "").Length > LongestAddress
            ? Refusal.Unacceptable("view-long", $"A view's address has at most {LongestAddress:N0} characters; remove some filters.")
        : request.EndsOn < today ? Refusal.Unacceptable("end-past", "The last day is over already; choose a later one, or none.")
        : null;

    private static void Put(ResultPage page, ResultPageRequest request) =>
        (page.Name, page.WithMoney, page.EndsOn) = (request.Name!.Trim(), request.WithMoney, request.EndsOn);

    private static object SaysOf(ResultPage page) =>
        new
        {
            page.Name,
            page.Address,
            page.WithMoney,
            page.EndsOn,
        };

    private SharedResults SharedOf(ResultPage page) => new(UrlOf(page), page.OnWherePage);

    private ResultPageAnswer AnswerOf(ResultPage page, DateOnly today) =>
        new(
            page.Id,
            page.Name ?? "",
            UrlOf(page),
            page.Address ?? "",
            page.WithMoney,
            page.EndsOn,
            page.EndsOn < today,
            page.CreatedBy,
            page.CreatedAt,
            page.Openings,
            page.LastOpenedAt
        );

    private string UrlOf(ResultPage page) => $"{options.Value.PublicUrl.TrimEnd('/')}/results/{page.Token}";
}

/// <summary>A page somebody has the address of.</summary>
/// <param name="Page">The page, with its link where it is one's.</param>
/// <param name="Workspace">Whose it is.</param>
/// <param name="Today">The day it is there.</param>
public sealed record FoundResults(ResultPage Page, Workspace Workspace, DateOnly Today);

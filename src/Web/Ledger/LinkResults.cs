using System.Collections.Frozen;
using System.Security.Cryptography;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Addresses;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Ledger;

/// <summary>What came of one link, for its own page and for whoever was given the address of its results.</summary>
public sealed class LinkResults(
    BeaconDb db,
    ConventionReader conventions,
    LinkCountsReader counts,
    WorkspaceReader workspaces,
    AuditLog auditLog,
    IOptions<BeaconOptions> options,
    TimeProvider clock
)
{
    /// <summary>Counts of a link.</summary>
    /// <param name="id">The link.</param>
    /// <param name="range"><c>day</c> (the last 24 hours), <c>week</c>, <c>month</c> (7 and 30 days), <c>all</c>, or <c>own</c>.</param>
    /// <param name="from">The first day of an own range, in the workspace's zone.</param>
    /// <param name="to">Its last day.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<Outcome<LinkResultsAnswer>> ReadAsync(Guid id, string range, DateOnly? from, DateOnly? to, CancellationToken cancel)
    {
        var link = await db.Links.AsNoTracking().Where(l => l.Id == id).Select(l => new { l.CreatedAt }).SingleOrDefaultAsync(cancel);
        if (link is null)
        {
            return Refusal.NotFound("link");
        }

        var workspace = await workspaces.ReadAsync(cancel);
        if (StretchOf(range, from, to, link.CreatedAt, workspace.TimeZone) is not var (first, until))
        {
            return Refusal.Invalid(
                "range-unknown",
                "A range is day, week, month or all, or own with a first and a last day, the last not before the first."
            );
        }

        var page = await db
            .ResultPages.AsNoTracking()
            .Where(p => p.LinkId == id && p.RevokedAt == null)
            .OrderByDescending(p => p.CreatedAt)
            .FirstOrDefaultAsync(cancel);
        return new LinkResultsAnswer(
            await counts.ReadAsync(id, first, until, workspace.TimeZone, cancel),
            await ReuseAsync(id, cancel),
            page is null ? null : AddressOf(page),
            workspace.TimeZone,
            workspace.RawFrom is { } raw && WorkspaceDay.At(first, workspace.TimeZone) < raw ? raw : null
        );
    }

    /// <summary>Makes an address strangers may look at the results under; one that is there already is given again.</summary>
    public async Task<string?> ShareAsync(Guid id, CancellationToken cancel)
    {
        if (!await db.Links.AnyAsync(l => l.Id == id, cancel))
        {
            return null;
        }

        var page = await db.ResultPages.FirstOrDefaultAsync(p => p.LinkId == id && p.RevokedAt == null, cancel);
        if (page is null)
        {
            page = new ResultPage
            {
                LinkId = id,
                Token = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16)),
                CreatedBy = auditLog.Who,
                CreatedAt = clock.GetUtcNow(),
            };
            db.ResultPages.Add(page);
            auditLog.Add("result-page", id, null, new { Shared = true });
            await db.SaveChangesAsync(cancel);
        }

        return AddressOf(page);
    }

    /// <summary>Takes the address back: nobody may look any more.</summary>
    public async Task<bool> WithdrawAsync(Guid id, CancellationToken cancel)
    {
        var pages = await db.ResultPages.Where(p => p.LinkId == id && p.RevokedAt == null).ToListAsync(cancel);
        pages.ForEach(p => p.RevokedAt = clock.GetUtcNow());
        if (pages.Count > 0)
        {
            auditLog.Add("result-page", id, new { Shared = true }, null);
            await db.SaveChangesAsync(cancel);
        }

        return pages.Count > 0;
    }

    /// <summary>What a stranger sees under an address; null when nobody gave it out or it was taken back.</summary>
    public async Task<(string Title, Workspace Workspace, LinkCounts All, LinkCounts Month)?> FindAsync(
        string token,
        CancellationToken cancel
    )
    {
        var page = await db
            .ResultPages.IgnoreQueryFilters()
            .AsNoTracking()
            .Where(p => p.Token == token && p.RevokedAt == null)
            .Select(p => new
            {
                p.LinkId,
                p.WorkspaceId,
                p.Link!.Title,
                p.Link.CreatedAt,
            })
            .SingleOrDefaultAsync(cancel);
        if (page is null)
        {
            return null;
        }

        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == page.WorkspaceId, cancel);
        var now = clock.GetUtcNow();
        return (
            page.Title ?? "A link",
            workspace,
            await counts.ReadAsync(page.LinkId, page.CreatedAt, now, workspace.TimeZone, cancel),
            await counts.ReadAsync(
                page.LinkId,
                StretchOf("month", null, null, page.CreatedAt, workspace.TimeZone)!.Value.From,
                now,
                workspace.TimeZone,
                cancel
            )
        );
    }

    private async Task<IReadOnlyList<ReuseEvidence>> ReuseAsync(Guid id, CancellationToken cancel)
    {
        var own = await db.SiteHosts.Select(h => h.Host).Concat(db.ShortDomains.Select(d => d.Host)).ToListAsync(cancel);
        return CodeReuse.Find(
            await counts.OutsidePaperAsync(id, cancel),
            own.ToFrozenSet(StringComparer.OrdinalIgnoreCase),
            (await conventions.ReadAsync(cancel)).ReferrerKinds
        );
    }

    private (DateTimeOffset From, DateTimeOffset Until)? StretchOf(
        string range,
        DateOnly? from,
        DateOnly? to,
        DateTimeOffset made,
        string zone
    )
    {
        var now = clock.GetUtcNow();
        var today = WorkspaceDay.At(now, zone);
        return range switch
        {
            "day" => (now.AddHours(-24), now),
            "week" => (StartOf(today.AddDays(-6)), now),
            "month" => (StartOf(today.AddDays(-29)), now),
            "all" => (made < now ? made : now.AddHours(-1), now),
            "own" when from is { } first && to is { } last && first <= last && first.Year > 1970 && last.Year < 9999 => (
                StartOf(first),
                StartOf(last.AddDays(1))
            ),
            _ => null,
        };

        DateTimeOffset StartOf(DateOnly day) =>
            WorkspaceMoment.Read(day.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture), zone)!.Value;
    }

    private string AddressOf(ResultPage page) => $"{options.Value.PublicUrl.TrimEnd('/')}/results/{page.Token}";
}

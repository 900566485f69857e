using System.Security.Cryptography;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Workspaces;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Ledger;

namespace PreciseBeacon.Web.Plan;

/// <summary>Pages for partners: made, revoked, and read by whoever has the address.</summary>
public sealed class PartnerPageStore(
    BeaconDb db,
    CurrentWorkspace current,
    AuditLog auditLog,
    IOptions<BeaconOptions> options,
    TimeProvider clock
)
{
    private const int LongestText = 200;
    private const int LongestNote = 2_000;
    private const int MostPlacements = 500;
    private const int MostLinks = 2_000;

    /// <summary>Every page, newest first.</summary>
    public async Task<List<PartnerPageAnswer>> ListAsync(CancellationToken cancel)
    {
        var pages = await db.PartnerPages.AsNoTracking().Include(h => h.Campaign).OrderByDescending(h => h.CreatedAt).ToListAsync(cancel);
        var counts = await CountedLinks
            .All(db, clock.GetUtcNow())
            .Where(l => l.PlacementId != null)
            .GroupBy(l => new { l.PlacementId, l.CampaignId })
            .Select(g => new
            {
                g.Key.PlacementId,
                g.Key.CampaignId,
                Count = g.Sum(l => l.Links),
            })
            .ToListAsync(cancel);
        return
        [
            .. pages.Select(h =>
                AnswerOf(
                    h,
                    counts
                        .Where(c => h.PlacementIds.Contains(c.PlacementId!.Value) && (h.CampaignId is null || h.CampaignId == c.CampaignId))
                        .Sum(c => c.Count)
                )
            ),
        ];
    }

    /// <summary>Makes a page.</summary>
    public async Task<Outcome<PartnerPageAnswer>> MakeAsync(PartnerPageRequest request, CancellationToken cancel)
    {
        List<Guid> placements = [.. (request.Placements ?? []).Distinct()];
        if (string.IsNullOrWhiteSpace(request.Name) || request.Name.Trim().Length > LongestText || request.Note?.Length > LongestNote)
        {
            return Refusal.Invalid(
                "partner-page-refused",
                $"Enter the partner’s name (at most {LongestText} characters) and a message of at most {LongestNote:N0}."
            );
        }

        if (
            placements.Count is 0 or > MostPlacements
            || await db.Placements.CountAsync(p => placements.Contains(p.Id), cancel) != placements.Count
        )
        {
            return Refusal.Invalid("partner-page-refused", $"Choose 1 to {MostPlacements} placements whose links the partner gets.");
        }

        if (request.Campaign is { } campaign && !await db.Campaigns.AnyAsync(c => c.Id == campaign, cancel))
        {
            return Refusal.NotFound("campaign");
        }

        var page = new PartnerPage
        {
            Token = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16)),
            Name = request.Name.Trim(),
            Note = string.IsNullOrWhiteSpace(request.Note) ? null : request.Note.Trim(),
            PlacementIds = placements,
            CampaignId = request.Campaign,
            CreatedBy = auditLog.Who,
            CreatedAt = clock.GetUtcNow(),
        };
        db.PartnerPages.Add(page);
        auditLog.Add(
            "partner-page",
            page.Id,
            null,
            new
            {
                page.Name,
                page.PlacementIds,
                page.CampaignId,
            }
        );
        await db.SaveChangesAsync(cancel);
        return (await ListAsync(cancel)).Single(h => h.Id == page.Id);
    }

    /// <summary>Shuts a page for good.</summary>
    /// <returns>False when there is none.</returns>
    public async Task<bool> RevokeAsync(Guid id, CancellationToken cancel)
    {
        if (await db.PartnerPages.SingleOrDefaultAsync(h => h.Id == id, cancel) is not { } page)
        {
            return false;
        }

        if (page.RevokedAt is null)
        {
            page.RevokedAt = clock.GetUtcNow();
            auditLog.Add("partner-page", id, new { revoked = false }, new { revoked = true });
            await db.SaveChangesAsync(cancel);
        }

        return true;
    }

    /// <summary>Finds what an address leads to; from then on the request sees that page's workspace.</summary>
    /// <returns>The page with the workspace's name; null when nobody has that address, or no longer.</returns>
    public async Task<FoundHandOver?> FindAsync(string token, CancellationToken cancel)
    {
        var page = await db
            .PartnerPages.IgnoreQueryFilters()
            .AsNoTracking()
            .Include(h => h.Campaign)
            .SingleOrDefaultAsync(h => h.Token == token && h.RevokedAt == null, cancel);
        if (page is null)
        {
            return null;
        }

        current.Id = page.WorkspaceId;
        return new FoundHandOver(page, await db.Workspaces.Where(w => w.Id == page.WorkspaceId).Select(w => w.Name).SingleAsync(cancel));
    }

    /// <summary>Counts one opening.</summary>
    public Task CountAsync(PartnerPage page, CancellationToken cancel)
    {
        var now = clock.GetUtcNow();
        return db
            .PartnerPages.Where(h => h.Id == page.Id)
            .ExecuteUpdateAsync(
                h =>
                    h.SetProperty(x => x.Openings, x => x.Openings + 1)
                        .SetProperty(x => x.FirstOpenedAt, x => x.FirstOpenedAt ?? now)
                        .SetProperty(x => x.LastOpenedAt, now),
                cancel
            );
    }

    /// <summary>The links on a page with their share texts, by placement and then by age.</summary>
    public async Task<List<HandedLink>> LinksAsync(PartnerPage page, PageTexts texts, CancellationToken cancel)
    {
        var links = await db
            .Links.AsNoTracking()
            .Include(l => l.Campaign)
            .Include(l => l.Placement)
            .Include(l => l.ShortLinks)
                .ThenInclude(s => s.ShortDomain)
            .AsSplitQuery()
            .Where(l =>
                l.PlacementId != null
                && page.PlacementIds.Contains(l.PlacementId.Value)
                && (page.CampaignId == null || l.CampaignId == page.CampaignId)
            )
            .OrderBy(l => l.Placement!.Position)
            .ThenBy(l => l.CreatedAt)
            .Take(MostLinks)
            .ToListAsync(cancel);
        var campaigns = links.Select(l => l.CampaignId).OfType<Guid>().Distinct().ToList();
        var written = (
            await db.PageTexts.AsNoTracking().Where(t => t.CampaignId != null && campaigns.Contains(t.CampaignId.Value)).ToListAsync(cancel)
        ).ToDictionary(t => (t.CampaignId, t.Page), t => t.Text);
        var titles = await texts.TitlesAsync([.. links.Select(l => l.Page).Distinct()], cancel);
        return
        [
            .. links.Select(l => new HandedLink(
                l.Id,
                l.Title ?? l.Page,
                l.Placement!.Name,
                PageTexts.LinkToShare(l),
                l.Url,
                l.ShortLinks.FirstOrDefault(s => s.Use == ShortLinkUse.Code) is { } code ? code.ShortDomain!.UrlOf(code.Slug) : null,
                written.GetValueOrDefault((l.CampaignId, l.Page)) is { Length: > 0 } text
                    ? PageTexts.Fill(text, l, titles.GetValueOrDefault(l.Page)).Text
                    : null,
                l.IsWaiting
            )),
        ];
    }

    private PartnerPageAnswer AnswerOf(PartnerPage page, int links) =>
        new(
            page.Id,
            page.Name,
            page.Note,
            page.PlacementIds,
            page.CampaignId,
            page.Campaign?.Name,
            page.RevokedAt is null ? $"{options.Value.PublicUrl.TrimEnd('/')}/for/{page.Token}" : null,
            links,
            page.CreatedBy,
            page.CreatedAt,
            page.RevokedAt,
            page.Openings,
            page.FirstOpenedAt,
            page.LastOpenedAt
        );
}

/// <summary>A link as a partner gets it.</summary>
/// <param name="Share">The link to use: short where there is one.</param>
/// <param name="CodeSays">What its code says, or null without one.</param>
/// <param name="Text">The ready share text, or null.</param>
public sealed record HandedLink(
    Guid Id,
    string Title,
    string Placement,
    string Share,
    string Url,
    string? CodeSays,
    string? Text,
    bool Waiting
);

/// <summary>A page somebody has the address of, and the name of the workspace that made it.</summary>
public sealed record FoundHandOver(PartnerPage Page, string Workspace);

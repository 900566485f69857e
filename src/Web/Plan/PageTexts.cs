using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Plan;

/// <summary>Share texts: one for a page and campaign, filled with each placement's own link.</summary>
public sealed class PageTexts(BeaconDb db, ConventionReader conventions, WorkspaceReader workspaces, AuditLog auditLog, TimeProvider clock)
{
    public const int LongestText = 5_000;
    private const int LongestPage = 8_000;

    /// <summary>Pages a campaign's links lead to, most links first.</summary>
    public async Task<List<SharePageAnswer>> PagesAsync(Guid campaign, CancellationToken cancel)
    {
        var pages = await db
            .Links.Where(l => l.CampaignId == campaign && l.PlacementId != null)
            .GroupBy(l => l.Page)
            .Select(g => new
            {
                Page = g.Key,
                Links = g.Count(),
                Placed = g.Count(l => l.PlacedAt != null),
            })
            .OrderByDescending(p => p.Links)
            .ThenBy(p => p.Page)
            .ToListAsync(cancel);
        var texts = (await db.PageTexts.AsNoTracking().Where(t => t.CampaignId == campaign).ToListAsync(cancel)).ToDictionary(t => t.Page);
        var titles = await TitlesAsync([.. pages.Select(p => p.Page)], cancel);
        return
        [
            .. pages.Select(p => new SharePageAnswer(
                p.Page,
                titles.GetValueOrDefault(p.Page),
                p.Links,
                p.Placed,
                texts.GetValueOrDefault(p.Page)?.Text ?? "",
                texts.GetValueOrDefault(p.Page)?.Revision ?? 0
            )),
        ];
    }

    /// <summary>Fills a text for every link of the campaign to the page, as it would be pasted.</summary>
    public async Task<FilledTexts> FillAsync(PageTextRequest request, CancellationToken cancel)
    {
        var today = await workspaces.TodayAsync(cancel);
        string page = request.Page ?? "";
        var links = await db
            .Links.AsNoTracking()
            .Include(l => l.Campaign)
            .Include(l => l.Placement)
            .Include(l => l.ShortLinks)
                .ThenInclude(s => s.ShortDomain)
            .AsSplitQuery()
            .Where(l => l.CampaignId == request.Campaign && l.PlacementId != null && l.Page == page)
            .OrderBy(l => l.Placement!.Position)
            .ThenBy(l => l.CreatedAt)
            .ToListAsync(cancel);
        string? title = (await TitlesAsync([page], cancel)).GetValueOrDefault(page);
        string contentKey = (await conventions.ReadAsync(cancel)).KeyOf(FieldMeaning.Content) ?? "";
        return new FilledTexts([
            .. links.Select(link =>
            {
                var placement = link.Placement!;
                var (text, missing) = Fill(request.Text ?? "", link, title);
                return new FilledText(
                    link.Id,
                    placement.Name,
                    placement.Publisher,
                    link.Values.GetValueOrDefault(contentKey),
                    text,
                    ShareText.CharactersOf(text),
                    missing,
                    placement.UseForm,
                    UseDays.Allow(placement.UseDays, today),
                    UseDays.NextFrom(placement.UseDays, today),
                    link.IsWaiting,
                    link.PlacedAt,
                    link.PlacedBy
                );
            }),
        ]);
    }

    /// <summary>Fills a text for one link; its campaign, placement and short links must have been read.</summary>
    public static (string Text, IReadOnlyList<string> Missing) Fill(string text, Link link, string? pageTitle) =>
        ShareText.Fill(text, link.Placement?.ShareForm, LinkToShare(link), name => name.ToLowerInvariant() switch
            {
                "placement" => link.Placement?.Name,
                "publisher" => link.Placement?.Publisher ?? link.Placement?.Name,
                "campaign" => link.Campaign?.Name,
                "page" => pageTitle ?? link.Page,
                _ => null,
            });

    /// <summary>The short link for texts where there is one, else the long one.</summary>
    public static string LinkToShare(Link link) =>
        link.ShortLinks.FirstOrDefault(s => s.Use == ShortLinkUse.Text) is { } text ? text.ShortDomain!.UrlOf(text.Slug) : link.Url;

    /// <summary>Keeps a text; an empty one is forgotten.</summary>
    public async Task<Outcome<KeptText>> KeepAsync(PageTextRequest request, CancellationToken cancel)
    {
        if (string.IsNullOrWhiteSpace(request.Page) || request.Page.Length > LongestPage || request.Text?.Length > LongestText)
        {
            return Refusal.Invalid("text-refused", $"A share text belongs to a page and has at most {LongestText:N0} characters.");
        }

        if (!await db.Campaigns.AnyAsync(c => c.Id == request.Campaign, cancel))
        {
            return Refusal.NotFound("campaign");
        }

        var kept = await db.PageTexts.SingleOrDefaultAsync(t => t.CampaignId == request.Campaign && t.Page == request.Page, cancel);
        if ((kept?.Revision ?? 0) != request.Revision)
        {
            return Refusal.ChangedBy(kept?.WrittenBy, "this text", new { text = kept?.Text ?? "", revision = kept?.Revision ?? 0 });
        }

        if (kept is null)
        {
            kept = new PageText
            {
                CampaignId = request.Campaign,
                Page = request.Page,
                Text = "",
                WrittenBy = "",
            };
            db.PageTexts.Add(kept);
        }

        auditLog.Add("share-text", kept.Id, kept.Revision == 0 ? null : new { kept.Text }, new { request.Text });
        (kept.Text, kept.WrittenBy, kept.WrittenAt, kept.Revision) = (
            request.Text ?? "",
            auditLog.Who,
            clock.GetUtcNow(),
            kept.Revision + 1
        );
        await db.SaveChangesAsync(cancel);
        return new KeptText(kept.Revision);
    }

    /// <summary>Marks a link as placed, or takes the mark away.</summary>
    /// <returns>False when there is no such link.</returns>
    public async Task<bool> PlaceAsync(Guid linkId, bool placed, CancellationToken cancel)
    {
        if (await db.Links.SingleOrDefaultAsync(l => l.Id == linkId, cancel) is not { } link)
        {
            return false;
        }

        auditLog.Add("link-placed", linkId, new { placed = link.PlacedAt is not null }, new { placed });
        link.PlacedAt = placed ? clock.GetUtcNow() : null;
        link.PlacedBy = placed ? auditLog.Who : null;
        await db.SaveChangesAsync(cancel);
        return true;
    }

    /// <summary>Titles by host and path.</summary>
    public async Task<Dictionary<string, string>> TitlesAsync(IReadOnlyList<string> pages, CancellationToken cancel)
    {
        var addresses = pages
            .SelectMany(p => new[] { $"http://{p}", $"https://{p}", $"http://{p.TrimEnd('/')}", $"https://{p.TrimEnd('/')}" })
            .Distinct()
            .ToList();
        var known = await db
            .SitePages.Where(p => p.Title != null && addresses.Contains(p.Address))
            .Select(p => new { p.Address, p.Title })
            .ToListAsync(cancel);
        return pages
            .Select(p =>
                (
                    Page: p,
                    known
                        .FirstOrDefault(k =>
                            k.Address[(k.Address.IndexOf("://", StringComparison.Ordinal) + 3)..].TrimEnd('/') == p.TrimEnd('/')
                        )
                        ?.Title
                )
            )
            .Where(p => p.Title is not null)
            .DistinctBy(p => p.Page)
            .ToDictionary(p => p.Page, p => p.Title!);
    }
}

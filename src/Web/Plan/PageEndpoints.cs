using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Outside;

namespace PreciseBeacon.Web.Plan;

/// <summary>Pages of the workspace's sites, found by title or path.</summary>
public static class PageEndpoints
{
    private const int MostAtOnce = 200;
    private const int LongestPaste = 4 << 20;

    public static void MapPages(RouteGroupBuilder group)
    {
        group
            .MapGet("/pages", FindAsync)
            .WithName("ListPages")
            .WithSummary("Lists the pages that are known by their titles.")
            .For(Caller.Readers);
        group.MapPost("/pages", PasteAsync).WithName("NamePages").WithSummary("Gives pages titles.").For(Caller.Builders);
        group.MapDelete("/pages/{id:guid}", ForgetAsync).WithName("ForgetPage").WithSummary("Forgets a page's title.").For(Caller.Builders);
        group
            .MapPost("/sites/{id:guid}/read-sitemap", ReadSitemapAsync)
            .WithName("ReadSitemap")
            .WithSummary("Reads a site's pages from its sitemap.")
            .For(Caller.Builders);
    }

    private static async Task<Ok<PagesAnswer>> FindAsync(BeaconDb db, CancellationToken cancel, string? search = null, int most = 20)
    {
        var pages = db.SitePages.AsNoTracking();
        foreach (string word in (search ?? "").Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Take(8))
        {
            string pattern = LikePattern.Anywhere(word);
            pages = pages.Where(p =>
                EF.Functions.ILike(p.Address, pattern, LikePattern.Escape) || EF.Functions.ILike(p.Title!, pattern, LikePattern.Escape)
            );
        }

        var found = await pages
            .OrderBy(p => p.Title == null)
            .ThenBy(p => p.Title)
            .ThenBy(p => p.Address)
            .Take(Math.Clamp(most, 1, MostAtOnce))
            .Select(p => new PageAnswer(p.Id, p.Address, p.Title, p.Site!.Name, p.SeenAt))
            .ToListAsync(cancel);
        var sites = await db
            .Sites.OrderBy(s => s.Name)
            .Select(s => new SiteAnswer(
                s.Id,
                s.Name,
                s.Hosts.OrderBy(h => h.Id).Select(h => h.Host).First(),
                db.SitePages.Count(p => p.SiteId == s.Id)
            ))
            .ToListAsync(cancel);
        return TypedResults.Ok(new PagesAnswer(found, await pages.CountAsync(cancel), sites));
    }

    private static async Task<Outcome<PagesRead>> PasteAsync(PasteRequest request, PageNames names, CancellationToken cancel) =>
        string.IsNullOrWhiteSpace(request.Text) || request.Text.Length > LongestPaste
            ? Refusal.Invalid("pages-refused", "Paste one page a line: its address and, after a tab or a space, its title; at most 4 MB.")
            : await names.PasteAsync(request.Text, cancel);

    private static async Task<Outcome<PagesRead>> ReadSitemapAsync(Guid id, BeaconDb db, PageNames names, CancellationToken cancel)
    {
        if (await db.Sites.Include(s => s.Hosts).SingleOrDefaultAsync(s => s.Id == id, cancel) is not { Hosts.Count: > 0 } site)
        {
            return Refusal.NotFound("site");
        }

        try
        {
            return await names.ReadSitemapAsync(site, cancel);
        }
        catch (OutsideException broken)
        {
            return Refusal.Unacceptable("sitemap-unreadable", $"{broken.Message} Paste a list of pages instead, or try again later.");
        }
    }

    private static async Task<Refusal?> ForgetAsync(Guid id, BeaconDb db, CancellationToken cancel) =>
        await db.SitePages.Where(p => p.Id == id).ExecuteDeleteAsync(cancel) == 0 ? Refusal.NotFound("page") : null;
}

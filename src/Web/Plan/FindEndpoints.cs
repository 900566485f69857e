using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Plan;

/// <summary>Finds anything by title, slug, page, client or medium.</summary>
public static class FindEndpoints
{
    private const int MostOfAKind = 8;
    private const int MostWords = 6;

    public static void MapFind(RouteGroupBuilder group) =>
        group
            .MapGet("/find", FindAsync)
            .WithName("FindAnything")
            .WithSummary("Finds links, campaigns, placements and batches by words.")
            .For(Caller.Readers);

    /// <summary>Every word must occur somewhere in the thing found; letters' case does not matter.</summary>
    private static async Task<Ok<FindAnswer>> FindAsync(BeaconDb db, CancellationToken cancel, string? text = null)
    {
        string[] words = (text ?? "").Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries);
        if (words.Length == 0)
        {
            return TypedResults.Ok(new FindAnswer([], [], [], []));
        }

        var campaigns = db.Campaigns.AsNoTracking();
        var placements = db.Placements.AsNoTracking().Where(p => p.RetiredAt == null);
        var links = db.Links.AsNoTracking();
        var pages = db.SitePages.AsNoTracking();
        foreach (string word in words.Take(MostWords))
        {
            string p = LikePattern.Anywhere(word);
            const string E = LikePattern.Escape;
            campaigns = campaigns.Where(c =>
                EF.Functions.ILike(c.Name, p, E)
                || EF.Functions.ILike(c.Value, p, E)
                || EF.Functions.ILike(c.Owner!, p, E)
                || EF.Functions.ILike((string)(object)c.Attributes, p, E)
            );
            placements = placements.Where(x =>
                EF.Functions.ILike(x.Name, p, E)
                || EF.Functions.ILike(x.Channel, p, E)
                || EF.Functions.ILike(x.Publisher!, p, E)
                || EF.Functions.ILike((string)(object)x.Defaults, p, E)
                || x.Tags.Any(t => EF.Functions.ILike(t, p, E))
            );
            links = links.Where(l =>
                EF.Functions.ILike(l.Title!, p, E)
                || EF.Functions.ILike(l.Url, p, E)
                || EF.Functions.ILike(l.Placement!.Publisher!, p, E)
                || EF.Functions.ILike(l.Placement!.Name, p, E)
                || l.ShortLinks.Any(s => EF.Functions.ILike(s.Slug, p, E))
            );
            pages = pages.Where(x => EF.Functions.ILike(x.Title!, p, E) || EF.Functions.ILike(x.Address, p, E));
        }

        return TypedResults.Ok(
            new FindAnswer(
                await campaigns
                    .OrderBy(c => c.ArchivedAt != null)
                    .ThenByDescending(c => c.StartsOn)
                    .Take(MostOfAKind)
                    .Select(c => new FoundCampaign(c.Id, c.Name, c.Value, c.ArchivedAt != null))
                    .ToListAsync(cancel),
                await placements
                    .OrderBy(x => x.Position)
                    .Take(MostOfAKind)
                    .Select(x => new FoundPlacement(x.Id, x.Name, x.Channel, x.Publisher))
                    .ToListAsync(cancel),
                await links
                    .OrderByDescending(l => l.CreatedAt)
                    .Take(MostOfAKind)
                    .Select(l => new FoundLink(
                        l.Id,
                        l.Title ?? l.Page,
                        l.Url,
                        l.ShortLinks.Where(s => s.Use == ShortLinkUse.Text).Select(s => s.Slug).FirstOrDefault()
                    ))
                    .ToListAsync(cancel),
                await pages.OrderBy(x => x.Title).Take(MostOfAKind).Select(x => new FoundPage(x.Address, x.Title)).ToListAsync(cancel)
            )
        );
    }
}

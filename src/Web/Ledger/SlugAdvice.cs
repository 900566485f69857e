using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;
using PreciseBeacon.Data.ShortLinks;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Whether a slug is free and what looks like it, and free ones to choose from.</summary>
/// <param name="Problem">Why it can't be taken; null when it can, or when none was given.</param>
/// <param name="Alike">Slugs on the same domain that could be confused with it, a few.</param>
/// <param name="Ideas">Free slugs made from page, campaign and placement, the best first.</param>
public sealed record SlugCheckAnswer(string? Problem, IReadOnlyList<string> Alike, IReadOnlyList<string> Ideas);

/// <summary>Looks slugs up among those that stand on a domain.</summary>
public sealed class SlugAdvice(BeaconDb db, SlugTable slugs, WorkspaceReader workspaces, TimeProvider clock)
{
    private const int MostAlike = 3;
    private const int MostIdeas = 4;

    /// <summary>Looks.</summary>
    /// <param name="slug">What somebody typed, or null.</param>
    /// <param name="domain">Id or host of the short domain; the placement's or the first where it is left out.</param>
    /// <param name="page">Address of the page, or null.</param>
    /// <param name="campaign">Id or name of a campaign, or null.</param>
    /// <param name="placement">Id or name of a placement, or null.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<SlugCheckAnswer> CheckAsync(
        string? slug,
        string? domain,
        string? page,
        string? campaign,
        string? placement,
        CancellationToken cancel
    )
    {
        var spot = string.IsNullOrWhiteSpace(placement) ? null : (await PlacementsAsync(cancel)).Find(placement);
        if ((await ShortDomainChoice.ReadAsync(db, cancel)).Find(domain ?? spot?.ShortDomainId?.ToString()) is not { } on)
        {
            return new SlugCheckAnswer(null, [], []);
        }

        string? typed = TypedText.OrNull(slug)?.ToLowerInvariant();
        bool IsTaken(string wanted) => slugs.Domain(on.Host)?.ContainsKey(wanted) == true;
        string? problem = typed is null
            ? null
            : SlugMaker.WhyNotChosen(typed)
                ?? (IsTaken(typed) ? $"“{typed}” belongs to another link on {on.Host}; choose another slug." : null);
        return new SlugCheckAnswer(
            problem,
            typed is null ? [] : Alike(on.Host, typed),
            await IdeasAsync(page, campaign, spot?.Name, IsTaken, cancel)
        );
    }

    private async Task<NamedThings<Placement>> PlacementsAsync(CancellationToken cancel) =>
        new(await db.Placements.AsNoTracking().ToListAsync(cancel), p => p.Id, p => p.Name);

    private List<string> Alike(string host, string typed)
    {
        string looks = SlugLooks.Of(typed);
        var taken = slugs.Domain(host) ?? [];

        // Most slugs can be misread in a few hundred ways, which are sooner tried than millions of slugs gone through.
        var alike =
            SlugLooks.CountSpellings(looks) < taken.Count
                ? SlugLooks.Spell(looks).Where(taken.ContainsKey)
                : taken.Select(s => s.Key).Where(s => SlugLooks.IsAs(s, looks));
        return [.. alike.Where(s => !s.Equals(typed, StringComparison.OrdinalIgnoreCase)).Take(MostAlike)];
    }

    private async Task<List<string>> IdeasAsync(
        string? page,
        string? campaign,
        string? placement,
        Func<string, bool> isTaken,
        CancellationToken cancel
    )
    {
        string? campaignName = string.IsNullOrWhiteSpace(campaign)
            ? null
            : new NamedThings<Campaign>(await db.Campaigns.AsNoTracking().ToListAsync(cancel), c => c.Id, c => c.Name).Find(campaign)?.Name;
        var today = WorkspaceDay.At(clock.GetUtcNow(), (await workspaces.ReadAsync(cancel)).TimeZone);
        string path = DestinationReader.Read(page ?? "").Destination?.Path ?? "";
        return [.. SlugIdeas.Of(path, campaignName, placement, today).Where(i => !isTaken(i)).Take(MostIdeas)];
    }
}

using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data;
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
        if ((await ShortDomainChoice.ReadAsync(db, cancel)).Find(domain ?? await DomainOfAsync(placement, cancel)) is not { } on)
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
            await IdeasAsync(page, campaign, placement, IsTaken, cancel)
        );
    }

    private async Task<string?> DomainOfAsync(string? placement, CancellationToken cancel) =>
        TypedText.OrNull(placement) is not { } p
            ? null
            : await db
                .Placements.Where(x => x.Id.ToString() == p || x.Name == p)
                .Select(x => x.ShortDomainId == null ? null : x.ShortDomainId.ToString())
                .FirstOrDefaultAsync(cancel);

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
        string? campaignName = TypedText.OrNull(campaign) is not { } c
            ? null
            : await db.Campaigns.Where(x => x.Id.ToString() == c || x.Name == c).Select(x => x.Name).FirstOrDefaultAsync(cancel);
        string? placementName = TypedText.OrNull(placement) is not { } p
            ? null
            : await db.Placements.Where(x => x.Id.ToString() == p || x.Name == p).Select(x => x.Name).FirstOrDefaultAsync(cancel);
        var today = WorkspaceDay.At(clock.GetUtcNow(), (await workspaces.ReadAsync(cancel)).TimeZone);
        string path = DestinationReader.Read(page ?? "").Destination?.Path ?? "";
        return [.. SlugIdeas.Of(path, campaignName, placementName, today).Where(i => !isTaken(i)).Take(MostIdeas)];
    }
}

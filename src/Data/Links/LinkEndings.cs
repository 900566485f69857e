using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.ShortLinks;

namespace PreciseBeacon.Data.Links;

/// <summary>Settles the endings that were asked for with new links.</summary>
public sealed class LinkEndings(BeaconDb db)
{
    /// <summary>The links with their endings, to be stored with them. Each different ending is judged once, however many links have it.</summary>
    public async Task<Outcome<IReadOnlyList<PreparedLink>>> SettleAsync(IReadOnlyList<PreparedLink> links, CancellationToken cancel)
    {
        if (links.All(l => l.Request.Ending is null))
        {
            return Outcome.Of(links);
        }

        if (links.Any(l => l.Request is { Ending: not null, Shorten: false }))
        {
            return Refusal.Unacceptable("ending-without-short-link", "Only a short link can end; create one, or leave out the ending.");
        }

        string zone = await db.Workspaces.Where(w => w.Id == db.CurrentWorkspaceId).Select(w => w.TimeZone).SingleAsync(cancel);
        var settled = new Dictionary<Ending, SettledEnding>();
        foreach (var ending in links.Select(l => l.Request.Ending).OfType<Ending>().Distinct())
        {
            var outcome = LinkEnding.Settle(ending, links[0].Inputs.Facts, zone);
            if (outcome.IsRefused)
            {
                return outcome.Refusal;
            }

            settled[ending] = outcome.Value;
        }

        return Outcome.Of<IReadOnlyList<PreparedLink>>([
            .. links.Select(l => l.Request.Ending is { } ending ? l with { Ending = settled[ending] } : l),
        ]);
    }
}

using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Composing.Checks;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Compose;

/// <summary>Looks up what links are made from and has the core make them. A few queries, however many links.</summary>
public sealed class LinkComposition(BeaconDb db, ConventionReader conventions, TimeProvider clock)
{
    public const int MostAtOnce = 1_000;

    /// <summary>Composes links; the answers stand in the order of the requests.</summary>
    /// <param name="requests">What they are made from.</param>
    /// <param name="cancel">Gives up reading.</param>
    /// <param name="alsoLive">Shapes of placeholders that stay literal here, besides the workspace's own.</param>
    public async Task<IReadOnlyList<WorkedLink>> ComposeAsync(IReadOnlyList<ComposeRequest> requests, CancellationToken cancel, PlaceholderShapes alsoLive = PlaceholderShapes.None)
    {
        var convention = await conventions.ReadAsync(cancel, alsoLive);
        var every = await db.Campaigns.AsNoTracking().ToListAsync(cancel);
        var spots = await db.Placements.AsNoTracking().ToListAsync(cancel);
        var facts = WithPlan(await FactsAsync(cancel), convention, every, requests.Any(r => string.IsNullOrWhiteSpace(r.Placement)) ? spots : []);
        var campaigns = ByIdOrName(every, c => c.Id, c => c.Name);
        var placements = ByIdOrName(spots, p => p.Id, p => p.Name);

        var worked = requests.Select(r => Work(r, convention, facts, campaigns, placements)).ToList();
        var urls = worked.Select(w => w.Composed.Tagged?.Url).OfType<string>().Distinct().ToList();
        var existing = (await WithUrls(urls)
                .Select(l => new { l.Url, l.Id, l.Title, l.CreatedAt })
                .ToListAsync(cancel))
            .GroupBy(l => l.Url)
            .ToDictionary(g => g.Key, g => g.MaxBy(l => l.CreatedAt)!);

        // Asked by themselves: in one query with the links, what is known of the table decides whether that takes a moment or minutes.
        List<Guid> twins = [.. existing.Values.Select(l => l.Id)];
        var shortened = twins.Count == 0 ? [] : await db.ShortLinks.AsNoTracking().Include(s => s.ShortDomain)
            .Where(s => twins.Contains(s.LinkId) && s.Use == ShortLinkUse.Text).ToDictionaryAsync(s => s.LinkId, s => s.ShortDomain!.UrlOf(s.Slug), cancel);
        var judged = TwinCheck.Run([.. worked.Select(w => w.Composed)], existing.ToDictionary(e => e.Key, e => e.Value.Title ?? "A link"));
        return [.. worked.Zip(judged, (w, composed) => w with
        {
            Composed = composed,
            Existing = composed.Tagged is { } tagged && existing.GetValueOrDefault(tagged.Url) is { } twin
                ? new ExistingLink(twin.Id, twin.Title ?? "A link", shortened.GetValueOrDefault(twin.Id))
                : null,
        })];
    }

    /// <summary>
    /// Links by their addresses, each looked up by itself: given all at once, a database that has not counted a fast growing
    /// table anew compares every row with every address.
    /// </summary>
    private IQueryable<Link> WithUrls(List<string> urls) => db.Links
        .FromSql($"select t.* from unnest({urls}) u(url) cross join lateral (select * from links where workspace_id = {db.CurrentWorkspaceId} and url = u.url offset 0) t")
        .AsNoTracking();

    /// <summary>Composes the tags alone.</summary>
    public async Task<(Snippet Snippet, Placement? Placement, Campaign? Campaign)> ComposeSnippetAsync(SnippetRequest request, CancellationToken cancel)
    {
        var campaigns = await FindAsync(db.Campaigns, [request.Campaign], c => c.Id, c => c.Name, cancel);
        var placements = await FindAsync(db.Placements, [request.Placement], p => p.Id, p => p.Name, cancel);
        var unknown = new List<Notice>();
        var campaign = Pick(request.Campaign, campaigns, NoticeRules.CampaignUnknown, "campaign", unknown);
        var placement = Pick(request.Placement, placements, NoticeRules.PlacementUnknown, "placement", unknown);
        var snippet = LinkPipeline.RunSnippet(
            await conventions.ReadAsync(cancel), new LinkRequest("", request.Fields ?? [], ChoiceOf(campaign), ChoiceOf(placement)), await FactsAsync(cancel));
        return (unknown.Count == 0 ? snippet : snippet with { Notices = [.. unknown, .. snippet.Notices] }, placement, campaign);
    }

    /// <summary>Reads a URL back under the convention that holds.</summary>
    /// <param name="url">The URL.</param>
    /// <param name="foundOn">Address of the page it stands on, or null.</param>
    /// <param name="cancel">Gives up reading.</param>
    public async Task<InspectedLink> InspectAsync(string url, string? foundOn, CancellationToken cancel) =>
        await InspectAsync(await conventions.ReadAsync(cancel), url, foundOn, cancel);

    /// <summary>Reads a URL back under any convention.</summary>
    public async Task<InspectedLink> InspectAsync(Convention convention, string url, string? foundOn, CancellationToken cancel) =>
        (await InspectAsync(convention, [url], foundOn, decodeTwice: false, cancel))[0];

    /// <summary>Reads many URLs back under the convention that holds, in their order.</summary>
    /// <param name="urls">The URLs.</param>
    /// <param name="cancel">Gives up reading.</param>
    /// <param name="foundOn">Address of the page they stand on, or null.</param>
    /// <param name="decodeTwice">Mends values that look percent-encoded twice; otherwise each is read exactly as it was written.</param>
    public async Task<IReadOnlyList<InspectedLink>> InspectAsync(IReadOnlyList<string> urls, CancellationToken cancel, string? foundOn = null, bool decodeTwice = false) =>
        await InspectAsync(await conventions.ReadAsync(cancel), urls, foundOn, decodeTwice, cancel);

    private async Task<IReadOnlyList<InspectedLink>> InspectAsync(Convention convention, IReadOnlyList<string> urls, string? foundOn, bool decodeTwice, CancellationToken cancel)
    {
        var facts = WithPlan(await FactsAsync(cancel), convention, await db.Campaigns.AsNoTracking().ToListAsync(cancel), await db.Placements.AsNoTracking().ToListAsync(cancel));
        var codes = urls.Select(u => SealedLinks.CodeIn(u, convention)).OfType<string>().Distinct().ToList();
        if (codes.Count > 0)
        {
            var found = await db.SealedLinks.AsNoTracking().Where(s => codes.Contains(s.Code)).ToListAsync(cancel);
            facts = facts with { Sealed = found.ToDictionary(s => s.Code, s => (IReadOnlyDictionary<string, string>)s.Values) };
        }

        string? page = string.IsNullOrWhiteSpace(foundOn) ? null : DestinationReader.Read(foundOn).Destination?.HostAndPort;
        return [.. urls.Select(u => LinkInspector.Inspect(convention, u, facts, page, decodeTwice))];
    }

    private static LinkFacts WithPlan(LinkFacts facts, Convention convention, IEnumerable<Campaign> campaigns, IEnumerable<Placement> placements) =>
        facts with
        {
            Campaigns = CampaignWords.Of(convention, campaigns.Select(c => ChoiceOf(c)!)),
            Placements = KnownPlacements.Of(convention, placements.Select(p => ChoiceOf(p)!)),
        };

    /// <summary>What is known about the outside.</summary>
    public async Task<LinkFacts> FactsAsync(CancellationToken cancel)
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var hosts = await db.SiteHosts.Join(db.Sites, h => h.SiteId, s => s.Id, (h, s) => new { h.Host, h.AnswersHttps, s.Style }).ToListAsync(cancel);
        var approved = await db.ApprovedHosts.Where(h => h.Approved).Select(h => h.Host).ToListAsync(cancel);
        return new LinkFacts(
            hosts.ToDictionary(h => h.Host, h => h.Style),
            approved.ToHashSet(),
            hosts.Where(h => h.AnswersHttps).Select(h => h.Host).ToHashSet(),
            WorkspaceDay.At(clock.GetUtcNow(), workspace.TimeZone))
        {
            RefusedHosts = (await db.RefusedHosts.Select(h => h.Host).ToListAsync(cancel)).ToHashSet(),
            ShortHosts = (await db.ShortDomains.Select(d => d.Host).ToListAsync(cancel)).ToHashSet(),
        };
    }

    private static WorkedLink Work(
        ComposeRequest request, Convention convention, LinkFacts facts, Dictionary<string, Campaign> campaigns, Dictionary<string, Placement> placements)
    {
        var unknown = new List<Notice>();
        var campaign = Pick(request.Campaign, campaigns, NoticeRules.CampaignUnknown, "campaign", unknown);
        var placement = Pick(request.Placement, placements, NoticeRules.PlacementUnknown, "placement", unknown);
        var composed = LinkPipeline.Run(
            convention,
            new LinkRequest(
                request.Destination ?? "",
                request.Fields ?? [],
                ChoiceOf(campaign),
                ChoiceOf(placement),
                request.Style,
                request.Existing,
                BehindShortLink: request.Shorten && request.Carries != CarriedParameters.Overwrite),
            facts);
        // A link whose value is a known campaign's belongs to it, also where nobody named the campaign; its placement likewise.
        campaign ??= facts.Campaigns?.CampaignOf(composed.Fields) is { } known ? campaigns.GetValueOrDefault(known.Name) : null;
        placement ??= facts.Placements?.PlacementOf(composed.Fields) is { } spot ? placements.GetValueOrDefault(spot.Name) : null;
        string? page = composed.Destination is { } destination ? LinkReader.Read(destination, convention.Tags).Untagged.Shown : null;
        return new WorkedLink(request, unknown.Count == 0 ? composed : composed with { Notices = [.. unknown, .. composed.Notices] }, page, campaign, placement, convention, facts);
    }

    private static CampaignChoice? ChoiceOf(Campaign? campaign) =>
        campaign is null ? null : new CampaignChoice(campaign.Name, campaign.Value, campaign.StartsOn, campaign.EndsOn, campaign.Attributes);

    private static PlacementChoice? ChoiceOf(Placement? placement) =>
        placement is null ? null : new PlacementChoice(placement.Name, placement.Standing, placement.Style, placement.Channel, placement.ToolWrites, placement.Asks);

    private static T? Pick<T>(string? named, Dictionary<string, T> known, NoticeRule rule, string what, List<Notice> unknown)
        where T : class
    {
        if (string.IsNullOrWhiteSpace(named))
        {
            return null;
        }

        if (known.TryGetValue(named.Trim(), out var found))
        {
            return found;
        }

        unknown.Add(Notice.Of(rule, null, $"There is no {what} “{named}” in this workspace; choose another."));
        return null;
    }

    /// <summary>Finds rows by id or name, whatever the case.</summary>
    private static async Task<Dictionary<string, T>> FindAsync<T>(
        IQueryable<T> rows, IEnumerable<string?> named, Func<T, Guid> id, Func<T, string> name, CancellationToken cancel)
        where T : class =>
        named.All(string.IsNullOrWhiteSpace) ? [] : ByIdOrName(await rows.AsNoTracking().ToListAsync(cancel), id, name);

    private static Dictionary<string, T> ByIdOrName<T>(IEnumerable<T> rows, Func<T, Guid> id, Func<T, string> name)
    {
        var found = new Dictionary<string, T>(StringComparer.OrdinalIgnoreCase);
        foreach (var row in rows)
        {
            found[id(row).ToString()] = row;
            found[name(row)] = row;
        }

        return found;
    }
}

using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Compose;

/// <summary>Looks up what links are made from and has the core make them. Three queries, however many links.</summary>
public sealed class LinkWorkshop(BeaconDb db, ConventionReader conventions, TimeProvider clock)
{
    public const int MostAtOnce = 1_000;

    /// <summary>Composes links; the answers stand in the order of the requests.</summary>
    public async Task<IReadOnlyList<WorkedLink>> ComposeAsync(IReadOnlyList<ComposeRequest> requests, CancellationToken cancel)
    {
        var convention = await conventions.ReadAsync(cancel);
        var facts = await FactsAsync(cancel);
        var campaigns = await FindAsync(db.Campaigns, requests.Select(r => r.Campaign), c => c.Id, c => c.Name, cancel);
        var placements = await FindAsync(db.Placements, requests.Select(r => r.Placement), p => p.Id, p => p.Name, cancel);

        var worked = requests.Select(r => Work(r, convention, facts, campaigns, placements)).ToList();
        var urls = worked.Select(w => w.Composed.Tagged?.Url).OfType<string>().Distinct().ToList();
        var existing = await db.Links.Where(l => urls.Contains(l.Url))
            .GroupBy(l => l.Url)
            .Select(g => new { Url = g.Key, Title = g.Max(l => l.Title) })
            .ToDictionaryAsync(l => l.Url, l => l.Title ?? "A link", cancel);
        var judged = TwinFindings.Say([.. worked.Select(w => w.Composed)], existing);
        return [.. worked.Zip(judged, (w, composed) => w with { Composed = composed })];
    }

    /// <summary>Reads a URL back under the convention that holds.</summary>
    /// <param name="url">The URL.</param>
    /// <param name="foundOn">Address of the page it stands on, or null.</param>
    /// <param name="cancel">Gives up reading.</param>
    public async Task<InspectedLink> InspectAsync(string url, string? foundOn, CancellationToken cancel) =>
        await InspectAsync(await conventions.ReadAsync(cancel), url, foundOn, cancel);

    /// <summary>Reads a URL back under any convention.</summary>
    public async Task<InspectedLink> InspectAsync(Convention convention, string url, string? foundOn, CancellationToken cancel)
    {
        var facts = await FactsAsync(cancel);
        if (SealedLinks.CodeIn(url, convention) is { } code
            && await db.SealedLinks.AsNoTracking().SingleOrDefaultAsync(s => s.Code == code, cancel) is { } link)
        {
            facts = facts with { Sealed = new Dictionary<string, IReadOnlyDictionary<string, string>> { [code] = link.Values } };
        }

        string? page = string.IsNullOrWhiteSpace(foundOn) ? null : DestinationReader.Read(foundOn).Destination?.HostAndPort;
        return LinkInspector.Inspect(convention, url, facts, page);
    }

    /// <summary>What is known about the outside.</summary>
    public async Task<LinkFacts> FactsAsync(CancellationToken cancel)
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var hosts = await db.SiteHosts.Join(db.Sites, h => h.SiteId, s => s.Id, (h, s) => new { h.Host, h.AnswersHttps, s.Style }).ToListAsync(cancel);
        var approved = await db.ApprovedHosts.Where(h => h.Approved).Select(h => h.Host).ToListAsync(cancel);
        var zone = TimeZoneInfo.FindSystemTimeZoneById(workspace.TimeZone);
        return new LinkFacts(
            hosts.ToDictionary(h => h.Host, h => h.Style),
            approved.ToHashSet(),
            hosts.Where(h => h.AnswersHttps).Select(h => h.Host).ToHashSet(),
            DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(clock.GetUtcNow(), zone).DateTime));
    }

    private static WorkedLink Work(
        ComposeRequest request, Convention convention, LinkFacts facts, Dictionary<string, Campaign> campaigns, Dictionary<string, Placement> placements)
    {
        var unknown = new List<Notice>();
        var campaign = Pick(request.Campaign, campaigns, NoticeRules.CampaignUnknown, "campaign", unknown);
        var placement = Pick(request.Placement, placements, NoticeRules.PlacementUnknown, "placement", unknown);
        var composed = ConventionComposer.Compose(
            convention,
            new LinkRequest(
                request.Destination ?? "",
                request.Fields ?? [],
                campaign is null ? null : new CampaignChoice(campaign.Name, campaign.Value, campaign.StartsOn, campaign.EndsOn, campaign.Attributes),
                placement is null ? null : new PlacementChoice(placement.Name, placement.Standing, placement.Style, placement.Channel, placement.ToolWrites, placement.Asks),
                Enum.TryParse<TagStyle>(request.Style, ignoreCase: true, out var style) ? style : null,
                Enum.TryParse<ExistingTags>(request.Existing, ignoreCase: true, out var existing) ? existing : null),
            facts);
        string? page = composed.Destination is { } destination ? LinkReader.Read(destination, convention.Tags).Untagged.Shown : null;
        return new WorkedLink(request, unknown.Count == 0 ? composed : composed with { Notices = [.. unknown, .. composed.Notices] }, page, campaign, placement, convention, facts);
    }

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

        unknown.Add(Notice.Of(rule, null, $"There is no {what} “{named}” in this workspace; choose one of its own."));
        return null;
    }

    /// <summary>Finds rows by id or name, whatever the case.</summary>
    private static async Task<Dictionary<string, T>> FindAsync<T>(
        IQueryable<T> rows, IEnumerable<string?> named, Func<T, Guid> id, Func<T, string> name, CancellationToken cancel)
        where T : class
    {
        var found = new Dictionary<string, T>(StringComparer.OrdinalIgnoreCase);
        if (named.All(string.IsNullOrWhiteSpace))
        {
            return found;
        }

        foreach (var row in await rows.AsNoTracking().ToListAsync(cancel))
        {
            found[id(row).ToString()] = row;
            found[name(row)] = row;
        }

        return found;
    }
}

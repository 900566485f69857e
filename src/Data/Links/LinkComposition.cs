using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Composing.Checks;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.Links;

/// <summary>Composes links and reads them back from what the workspace knows: reads the inputs, and has the pipeline do the work.</summary>
public sealed class LinkComposition(BeaconDb db, LinkInputsReader inputs)
{
    /// <summary>Most links composed at once.</summary>
    public const int MostAtOnce = 1_000;

    /// <summary>What a link without a title is called in a sentence.</summary>
    private const string Untitled = "A link";

    /// <summary>Composes links; the answers stand in the order of the requests.</summary>
    /// <param name="requests">What they are made from.</param>
    /// <param name="cancel">Gives up reading.</param>
    /// <param name="alsoLive">Shapes of placeholders that stay literal here, besides the workspace's own.</param>
    public async Task<IReadOnlyList<PreparedLink>> ComposeAsync(
        IReadOnlyList<ComposeRequest> requests,
        CancellationToken cancel,
        PlaceholderShapes alsoLive = PlaceholderShapes.None
    )
    {
        var known = await inputs.ReadAsync(cancel, alsoLive, tellPlacements: requests.Any(r => string.IsNullOrWhiteSpace(r.Placement)));
        List<PreparedLink> links = [.. requests.Select(r => Prepare(r, known))];
        var existing = await ExistingAsync([.. links.Select(l => l.Composed.Tagged?.Url).OfType<string>().Distinct()], cancel);
        var judged = TwinCheck.Run([.. links.Select(l => l.Composed)], existing.ToDictionary(e => e.Key, e => e.Value.Title));
        return
        [
            .. links.Zip(judged, (link, composed) =>
                link with
                {
                    Composed = composed,
                    Existing = composed.Tagged is { } tagged ? existing.GetValueOrDefault(tagged.Url) : null,
                }
            ),
        ];
    }

    /// <summary>Composes the tags alone.</summary>
    public async Task<(Snippet Snippet, Placement? Placement, Campaign? Campaign)> ComposeSnippetAsync(
        string? campaign,
        string? placement,
        IReadOnlyDictionary<string, string> fields,
        CancellationToken cancel
    )
    {
        var known = await inputs.ReadAsync(cancel, tellPlacements: false);
        var (named, unknown) = Resolve(campaign, placement, known);
        var snippet = LinkPipeline.RunSnippet(
            known.Convention,
            new LinkRequest("", fields, LinkInputs.ChoiceOf(named.Campaign), LinkInputs.ChoiceOf(named.Placement)),
            known.Facts with
            {
                Campaigns = null,
                Placements = null,
            }
        );
        return (
            unknown.Count == 0 ? snippet : snippet with { Notices = [.. unknown, .. snippet.Notices] },
            named.Placement,
            named.Campaign
        );
    }

    /// <summary>Reads URLs back under the convention that holds, in their order.</summary>
    /// <param name="urls">The URLs.</param>
    /// <param name="cancel">Gives up reading.</param>
    /// <param name="foundOn">Address of the page they stand on, or null.</param>
    /// <param name="decodeTwice">Mends values that look percent-encoded twice; otherwise each is read exactly as it was written.</param>
    public async Task<IReadOnlyList<InspectedLink>> InspectAsync(
        IReadOnlyList<string> urls,
        CancellationToken cancel,
        string? foundOn = null,
        bool decodeTwice = false
    ) => await InspectAsync(await inputs.ReadAsync(cancel), urls, foundOn, decodeTwice, cancel);

    /// <summary>Reads a URL back under any convention.</summary>
    public async Task<InspectedLink> InspectAsync(Convention convention, string url, CancellationToken cancel) =>
        (await InspectAsync(await inputs.ReadAsync(convention, cancel), [url], null, decodeTwice: false, cancel))[0];

    private async Task<IReadOnlyList<InspectedLink>> InspectAsync(
        LinkInputs known,
        IReadOnlyList<string> urls,
        string? foundOn,
        bool decodeTwice,
        CancellationToken cancel
    )
    {
        var facts = known.Facts;
        var codes = urls.Select(u => SealedLinks.CodeIn(u, known.Convention)).OfType<string>().Distinct().ToList();
        if (codes.Count > 0)
        {
            var found = await db.SealedLinks.AsNoTracking().Where(s => codes.Contains(s.Code)).ToListAsync(cancel);
            facts = facts with { Sealed = found.ToDictionary(s => s.Code, s => (IReadOnlyDictionary<string, string>)s.Values) };
        }

        string? page = string.IsNullOrWhiteSpace(foundOn) ? null : DestinationReader.Read(foundOn).Destination?.HostAndPort;
        return [.. urls.Select(u => LinkInspector.Inspect(known.Convention, u, facts, page, decodeTwice))];
    }

    private static PreparedLink Prepare(ComposeRequest request, LinkInputs known)
    {
        var (named, unknown) = Resolve(request.Campaign, request.Placement, known);
        var composed = LinkPipeline.Run(
            known.Convention,
            new LinkRequest(
                request.Destination ?? "",
                request.Fields ?? [],
                LinkInputs.ChoiceOf(named.Campaign),
                LinkInputs.ChoiceOf(named.Placement),
                request.Style,
                request.Existing,
                BehindShortLink: request.Shorten && request.Carries != CarriedParameters.Overwrite
            ),
            known.Facts
        );

        // A link whose value is a known campaign's belongs to it, also where nobody named the campaign; its placement likewise.
        var campaign = named.Campaign ?? known.Campaigns.Find(known.Facts.Campaigns?.CampaignOf(composed.Fields)?.Name);
        var placement = named.Placement ?? known.Placements.Find(known.Facts.Placements?.PlacementOf(composed.Fields)?.Name);
        return new PreparedLink(
            request,
            unknown.Count == 0 ? composed : composed with { Notices = [.. unknown, .. composed.Notices] },
            known,
            campaign,
            placement
        );
    }

    private static ((Campaign? Campaign, Placement? Placement) Named, List<Notice> Unknown) Resolve(
        string? campaign,
        string? placement,
        LinkInputs known
    )
    {
        var unknown = new List<Notice>();
        if (!known.Campaigns.TryFind(campaign, out var foundCampaign))
        {
            unknown.Add(
                Notice.Of(NoticeRules.CampaignUnknown, null, $"There is no campaign “{campaign}” in this workspace; choose another.")
            );
        }

        if (!known.Placements.TryFind(placement, out var foundPlacement))
        {
            unknown.Add(
                Notice.Of(NoticeRules.PlacementUnknown, null, $"There is no placement “{placement}” in this workspace; choose another.")
            );
        }

        return ((foundCampaign, foundPlacement), unknown);
    }

    /// <summary>The newest link of each URL, with its short link for texts.</summary>
    private async Task<Dictionary<string, ExistingLink>> ExistingAsync(List<string> urls, CancellationToken cancel)
    {
        // Each is looked up by itself: given all at once, a database that has not counted a fast growing table anew compares every
        // row with every address.
        var newest = (
            await db
                .Links.FromSql(
                    $"select t.* from unnest({urls}) u(url) cross join lateral (select * from links where workspace_id = {db.CurrentWorkspaceId} and url = u.url offset 0) t"
                )
                .AsNoTracking()
                .Select(l => new
                {
                    l.Url,
                    l.Id,
                    l.Title,
                    l.CreatedAt,
                })
                .ToListAsync(cancel)
        ).GroupBy(l => l.Url).Select(g => g.MaxBy(l => l.CreatedAt)!).ToList();

        // Asked by themselves: in one query with the links, what is known of the table decides whether that takes a moment or minutes.
        List<Guid> ids = [.. newest.Select(l => l.Id)];
        var shortened =
            ids.Count == 0
                ? []
                : await db
                    .ShortLinks.AsNoTracking()
                    .Include(s => s.ShortDomain)
                    .Where(s => ids.Contains(s.LinkId) && s.Use == ShortLinkUse.Text)
                    .ToDictionaryAsync(s => s.LinkId, s => s.ShortDomain!.UrlOf(s.Slug), cancel);
        return newest.ToDictionary(l => l.Url, l => new ExistingLink(l.Id, l.Title ?? Untitled, shortened.GetValueOrDefault(l.Id)));
    }
}

using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Imports;
using PreciseBeacon.Core.Proofs;
using PreciseBeacon.Core.Proofs.Reconciling;
using PreciseBeacon.Core.Proofs.Strays;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Reports;

namespace PreciseBeacon.Data.Proofs;

/// <summary>Gathers what speaks for the causes of gaps to other systems: clicks, pages, trials, strays.</summary>
public sealed class FigureEvidenceReader(
    BeaconDb db,
    ArrivalsReader arrivals,
    ClickGapReader gaps,
    OtherClickReader otherClicks,
    TrialBook trials,
    PageCheckBook pages,
    StrayReader strays
)
{
    /// <summary>Links of a campaign or placement that nobody clicked or visited: the newest ones, where there are more.</summary>
    private const int MostSilent = 5_000;

    /// <summary>What speaks for a cause, for each figure that is asked about.</summary>
    /// <param name="workspace">The workspace.</param>
    /// <param name="convention">The convention of today.</param>
    /// <param name="asked">Targets with the days their systems have figures of; the same target may stand there for several systems.</param>
    /// <param name="from">First day, in the workspace's zone.</param>
    /// <param name="to">Last day.</param>
    /// <param name="now">The moment.</param>
    /// <param name="cancel">Gives up.</param>
    /// <returns>In the order of what is asked.</returns>
    public async Task<IReadOnlyList<FigureEvidence>> ReadAsync(
        Workspace workspace,
        Convention convention,
        IReadOnlyList<(ImportTarget Target, FigureDays Days)> asked,
        DateOnly from,
        DateOnly to,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        if (asked.Count == 0)
        {
            return [];
        }

        var clicked = await gaps.ReadAsync(workspace.Id, from, to, now, cancel);
        var visited = await arrivals.ReadAsync(
            new ArrivalsRequest(workspace.Id, workspace.Currency, from, to, [new RowField(RowKind.Link)], [], WithVisitors: false),
            convention,
            cancel
        );
        var landings = await arrivals.ReadAsync(
            new ArrivalsRequest(workspace.Id, workspace.Currency, from, to, [new RowField(RowKind.LandingPage)], [], WithVisitors: false),
            convention,
            cancel
        );
        var measured = landings.Rows.Select(r => r.Keys[0]).OfType<string>().ToHashSet(StringComparer.Ordinal);
        var links = await LinksAsync(
            [.. clicked.Keys, .. visited.Rows.Select(r => r.Keys[0]).OfType<string>().Select(Guid.Parse)],
            [.. asked.Select(a => a.Target)],
            cancel
        );
        var finder = new TargetLinks(asked.Select(a => a.Target), links);
        var found = await trials.LatestFindingsAsync(workspace.Id, [.. links.Select(l => l.Link.Id)], cancel);
        var checkedPages = (await pages.ReadAsync(workspace.Id, null, cancel)).Pages.ToDictionary(
            p => p.Page,
            p =>
                p.Findings.Where(f => f.GoneAt is null && f.MutedBy is null)
                    .Select(f => new Finding(f.Rule, f.Severity, f.Message, f.Hop))
                    .ToList(),
            StringComparer.Ordinal
        );
        var others = (await otherClicks.ReadAsync(workspace.Id, [.. links.Select(l => l.Link.Id)], from, to, cancel)).ToLookup(o =>
            o.LinkId
        );
        var traffic = await strays.ReadAsync(workspace.Id, from, to, cancel);
        var groups = StrayFinder.Find(traffic.Sources, traffic.VisitsOf, convention, traffic.Plan);
        var campaignField = convention.IndexOf(FieldMeaning.Campaign) is var at and >= 0 ? convention.Fields[at].Key : null;
        var ofTargets = asked
            .Select(a => a.Target)
            .DistinctBy(t => t.Key)
            .ToDictionary(
                t => t.Key,
                t =>
                {
                    var covered = finder.Of(t);
                    var grave = covered
                        .Select(l =>
                            (found.GetValueOrDefault(l.Link.Id) ?? [])
                                .Concat(checkedPages.GetValueOrDefault(l.Page) ?? [])
                                .Where(f => ClickGap.Explains(f.Rule))
                                .ToList()
                        )
                        .Where(f => f.Count > 0)
                        .ToList();
                    var values = ValuesOf(t, covered, campaignField, traffic.Plan);
                    return (
                        Covered: covered,
                        Evidence: new FigureEvidence
                        {
                            Clicked = Sum(covered.Select(l => clicked.GetValueOrDefault(l.Link.Id)).OfType<GapEvidence>()),
                            Found = [.. grave.SelectMany(f => f).DistinctBy(f => (f.Rule, f.Message))],
                            FoundShare = grave.Count == 0 ? 1 : (double)grave.Count / covered.Count,
                            PageMeasured = covered.Count == 0 || covered.Any(l => measured.Contains(l.Page)),
                            Strays = StrayMeaning.VisitsOf(groups, values, traffic.Of, traffic.VisitsOf, convention, traffic.Plan),
                        }
                    );
                },
                StringComparer.Ordinal
            );
        return
        [
            .. asked.Select(a =>
            {
                var (covered, evidence) = ofTargets[a.Target.Key];
                var days = a.Days.Days.Select(d => d.Day).ToHashSet();
                var ofLinks = covered.SelectMany(l => others[l.Link.Id]).Where(o => days.Contains(o.Day)).ToList();
                return evidence with { DoubleTaps = ofLinks.Sum(o => o.DoubleTaps), Programs = ofLinks.Sum(o => o.Programs) };
            }),
        ];
    }

    /// <summary>The values by which strays would come to a target: its own, its campaign's and its placement's, or those of its link.</summary>
    private static Dictionary<string, string> ValuesOf(
        ImportTarget target,
        IReadOnlyList<FoundLink> covered,
        string? campaignField,
        PlanOfVisits plan
    )
    {
        if (target.LinkId is not null)
        {
            return covered is [var only] ? new Dictionary<string, string>(only.Link.Values) : [];
        }

        var values = new Dictionary<string, string>(target.Values);
        if (campaignField is not null && plan.Campaigns.FirstOrDefault(c => c.Id == target.CampaignId) is { } campaign)
        {
            values.TryAdd(campaignField, campaign.Value);
        }

        foreach (
            var (key, value) in plan.Placements.FirstOrDefault(p => p.Id == target.PlacementId)?.Values ?? new Dictionary<string, string>()
        )
        {
            values.TryAdd(key, value);
        }

        return values;
    }

    private static GapEvidence? Sum(IEnumerable<GapEvidence> some)
    {
        var all = some.ToList();
        return all.Count == 0
            ? null
            : new GapEvidence(
                all.Sum(e => e.Expected),
                all.Sum(e => e.Measured),
                all.Sum(e => e.New),
                all.Sum(e => e.Programs),
                all.Sum(e => e.Elsewhere),
                all.Sum(e => e.Silent),
                all.Sum(e => e.Reused),
                all.Sum(e => e.WithoutClick),
                all.Exists(e => e.PageMeasured)
            );
    }

    /// <summary>Links that were clicked or visited, or that a target is or stands for without any of that, such as those of a broken page.</summary>
    private async Task<List<FoundLink>> LinksAsync(HashSet<Guid> seen, IReadOnlyCollection<ImportTarget> targets, CancellationToken cancel)
    {
        seen.UnionWith(targets.Select(t => t.LinkId).OfType<Guid>());
        var ids = seen.ToArray();
        var campaigns = targets.Select(t => t.CampaignId).OfType<Guid>().Distinct().ToArray();
        var placements = targets.Select(t => t.PlacementId).OfType<Guid>().Distinct().ToArray();
        var links = await db
            .Links.AsNoTracking()
            .Where(l => ids.Contains(l.Id))
            .Select(l => new FoundLink(new CoverableLink(l.Id, l.CampaignId, l.PlacementId, l.Values), l.Page))
            .ToListAsync(cancel);
        var silent = await db
            .Links.AsNoTracking()
            .Where(l =>
                (l.CampaignId != null && campaigns.Contains(l.CampaignId.Value))
                || (l.PlacementId != null && placements.Contains(l.PlacementId.Value))
            )
            .OrderByDescending(l => l.CreatedAt)
            .Take(MostSilent)
            .Select(l => new FoundLink(new CoverableLink(l.Id, l.CampaignId, l.PlacementId, l.Values), l.Page))
            .ToListAsync(cancel);
        return [.. links.Concat(silent).DistinctBy(l => l.Link.Id)];
    }

    private sealed record FoundLink(CoverableLink Link, string Page);

    /// <summary>The links that belong to each target.</summary>
    private sealed class TargetLinks
    {
        private readonly Dictionary<string, List<FoundLink>> _links = new(StringComparer.Ordinal);

        public TargetLinks(IEnumerable<ImportTarget> targets, IEnumerable<FoundLink> links)
        {
            ImportTarget[] all = [.. targets.DistinctBy(t => t.Key)];
            var finder = new TargetFinder(all.Select((t, i) => (t, i)).ToDictionary(t => t.i, t => t.t));
            foreach (var link in links)
            {
                foreach (int target in finder.Of(link.Link))
                {
                    string key = all[target].Key;
                    (_links.TryGetValue(key, out var some) ? some : _links[key] = []).Add(link);
                }
            }
        }

        public List<FoundLink> Of(ImportTarget target) => _links.GetValueOrDefault(target.Key) ?? [];
    }
}

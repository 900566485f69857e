using System.IO.Hashing;
using System.Text;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Imports;
using PreciseBeacon.Core.Proofs;
using PreciseBeacon.Core.Proofs.Reconciling;
using PreciseBeacon.Core.Proofs.Strays;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Imports;
using PreciseBeacon.Data.Reports;

namespace PreciseBeacon.Data.Proofs;

/// <summary>Sets other systems' figures beside ours: the same targets on the same days, as Arrivals counts them.</summary>
public sealed class ReconcileReader(
    BeaconDb db,
    FigureBook book,
    NamedTargetReader names,
    ArrivalsReader arrivals,
    ClickGapReader gaps,
    TrialBook trials,
    PageCheckBook pages,
    StrayReader strays
)
{
    /// <summary>Gaps that are listed, and whose causes are looked for (ours).</summary>
    public const int Most = 200;

    /// <summary>Names that mean nothing known, listed with what they probably mean (ours).</summary>
    public const int MostUnmatched = 200;

    /// <summary>Rows are narrowed to single links up to so many; beyond it all are read, which is quicker then.</summary>
    private const int MostNarrowed = 200;

    private static readonly FigureKind[] Compared = [FigureKind.Visits, FigureKind.Clicks, FigureKind.Conversions];

    /// <summary>Compares what other systems count in a range.</summary>
    /// <param name="workspace">The workspace.</param>
    /// <param name="convention">The convention of today.</param>
    /// <param name="from">First day, in the workspace's zone.</param>
    /// <param name="to">Last day.</param>
    /// <param name="now">The moment.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<Reconciled> ReadAsync(
        Workspace workspace,
        Convention convention,
        DateOnly from,
        DateOnly to,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var read = await book.ReadAsync(workspace.Id, from, to, cancel);
        if (read.Figures.Count == 0)
        {
            return new Reconciled([], 0, [], 0, read.Matches);
        }

        var (targets, unmatched, unmatchedCount) = await MatchAsync(read, cancel);
        var campaigns = await db
            .Campaigns.AsNoTracking()
            .Select(c => new
            {
                c.Id,
                c.Name,
                c.Value,
            })
            .ToDictionaryAsync(c => c.Id, cancel);
        var placements = await db
            .Placements.AsNoTracking()
            .Select(p => new { p.Id, p.Name })
            .ToDictionaryAsync(p => p.Id, p => p.Name, cancel);
        var own = await OwnFigures(
            workspace,
            convention,
            from,
            to,
            targets.Values,
            id => campaigns[id].Value,
            id => placements[id],
            cancel
        );
        var compared = read
            .Figures.Where(f => targets.ContainsKey(f.Subject))
            .GroupBy(f => (read.Subjects[f.Subject].System, targets[f.Subject].Key))
            .Select(g =>
            {
                var target = targets[g.First().Subject];
                return (
                    g.Key.System,
                    Target: target,
                    Days: new FigureDays([
                        .. g.GroupBy(f => f.Day)
                            .OrderBy(d => d.Key)
                            .Select(d => (d.Key, d.Aggregate(default(OtherFigures), (sum, f) => sum.Plus(f.Figures)), own(target, d.Key))),
                    ])
                );
            })
            .ToList();
        var all = compared
            .SelectMany(c =>
                Compared
                    .Select(kind => FigureGap.Of(kind, c.Days.Theirs, c.Days.OursOf(kind), FigureEvidence.None))
                    .OfType<FigureGap>()
                    .Select(gap => (Row: c, Gap: gap))
            )
            .OrderBy(g => OrderOf(g.Gap.Verdict))
            .ThenByDescending(g => Math.Abs(g.Gap.Theirs - g.Gap.Ours))
            .ThenBy(g => g.Row.Target.Key, StringComparer.Ordinal)
            .ToList();
        var listed = all.Take(Most).ToList();
        var evidence = await EvidenceAsync(
            workspace,
            convention,
            [
                .. listed
                    .Where(g => g.Gap.Verdict is not (FigureVerdict.TooFew or FigureVerdict.Quiet))
                    .Select(g => (g.Row.Target, g.Row.Days)),
            ],
            from,
            to,
            now,
            cancel
        );
        var today = Core.Plan.WorkspaceDay.At(now, workspace.TimeZone);
        var links = await TitlesAsync([.. listed.Select(g => g.Row.Target.LinkId).OfType<Guid>()], cancel);
        return new Reconciled(
            [
                .. listed.Select(g =>
                {
                    var known = evidence.GetValueOrDefault(g.Row.Target.Key) ?? FigureEvidence.None;
                    return new ReconciledFigure(
                        g.Row.System,
                        g.Row.Target,
                        [
                            .. new[]
                            {
                                g.Row.Target.LinkId is { } link ? links.GetValueOrDefault(link) ?? "a link that is gone" : null,
                                g.Row.Target.CampaignId is { } campaign ? campaigns[campaign].Name : null,
                                g.Row.Target.PlacementId is { } placement ? placements[placement] : null,
                            }.OfType<string>(),
                            .. g.Row.Target.Values.Values,
                        ],
                        FigureGap.Of(
                            g.Gap.Kind,
                            g.Row.Days.Theirs,
                            g.Row.Days.OursOf(g.Gap.Kind),
                            known with
                            {
                                New = g.Row.Days.NewOf(g.Gap.Kind, today),
                            }
                        )!,
                        g.Row.Days.Theirs,
                        g.Row.Days.Days[0].Day,
                        g.Row.Days.Days[^1].Day,
                        g.Row.Days.WeeksOf(g.Gap.Kind)
                    );
                }),
            ],
            all.Count,
            unmatched,
            unmatchedCount,
            read.Matches
        );
    }

    private static int OrderOf(FigureVerdict verdict) =>
        verdict switch
        {
            FigureVerdict.Finding => 0,
            FigureVerdict.More => 1,
            FigureVerdict.Ordinary => 2,
            FigureVerdict.Quiet => 3,
            _ => 4,
        };

    /// <summary>What subjects mean, and the names that mean nothing known.</summary>
    private async Task<(Dictionary<int, ImportTarget> Targets, List<UnmatchedName> Unmatched, int Count)> MatchAsync(
        ReadFigures read,
        CancellationToken cancel
    )
    {
        var targets = new Dictionary<int, ImportTarget>();
        var unmatched = new Dictionary<(string System, TargetPart Part, string Text), (ImportProblem Problem, HashSet<int> Subjects)>();
        var matchers = new Dictionary<string, TargetMatcher>(StringComparer.Ordinal);
        foreach (var ofSystem in read.Subjects.GroupBy(s => s.Value.System, StringComparer.Ordinal))
        {
            var known = read
                .Matches.Where(m => m.System == ofSystem.Key)
                .ToDictionary(m => (m.Part, m.Text), m => new TargetCorrection(m.Id));
            var matcher = matchers[ofSystem.Key] = await names.MatcherAsync(
                db,
                ofSystem.Select(s => s.Value.Target.Link).Where(l => !known.ContainsKey((TargetPart.Link, l))),
                known,
                cancel
            );
            foreach (var (id, subject) in ofSystem)
            {
                var match = matcher.Match(subject.Target);
                if (match.Target is { } target)
                {
                    targets[id] = target;
                }
                else if (match is { Problem: { } problem, Part: { } part })
                {
                    var key = (ofSystem.Key, part, match.About);
                    (unmatched.TryGetValue(key, out var some) ? some : unmatched[key] = (problem, [])).Subjects.Add(id);
                }
            }
        }

        var rows = read.Figures.GroupBy(f => f.Subject).ToDictionary(g => g.Key, g => g.Count());
        return (
            targets,
            [
                .. unmatched
                    .Select(u => (u.Key, u.Value.Problem, Rows: u.Value.Subjects.Sum(s => rows.GetValueOrDefault(s))))
                    .OrderByDescending(u => u.Rows)
                    .ThenBy(u => u.Key.Text, StringComparer.Ordinal)
                    .Take(MostUnmatched)
                    .Select(u =>
                    {
                        var likely = matchers[u.Key.System].Likely(u.Key.Part, u.Key.Text);
                        return new UnmatchedName(u.Key.System, u.Key.Part, u.Key.Text, u.Problem, u.Rows, likely?.Id, likely?.Name);
                    }),
            ],
            unmatched.Count
        );
    }

    /// <summary>Ours by target and day, from one report for each kind of target.</summary>
    private async Task<Func<ImportTarget, DateOnly, OwnFigures>> OwnFigures(
        Workspace workspace,
        Convention convention,
        DateOnly from,
        DateOnly to,
        IEnumerable<ImportTarget> targets,
        Func<Guid, string> campaignOf,
        Func<Guid, string> placementOf,
        CancellationToken cancel
    )
    {
        var found = new Dictionary<(string Shape, RowKey Key), OwnFigures>();
        foreach (var ofShape in targets.DistinctBy(t => t.Key).GroupBy(ShapeOf).ToList())
        {
            var fields = FieldsOf(ofShape.First());
            var report = await arrivals.ReadAsync(
                new ArrivalsRequest(
                    workspace.Id,
                    workspace.Currency,
                    from,
                    to,
                    [.. fields, new RowField(RowKind.Day)],
                    [
                        .. fields
                            .Select(
                                (field, place) =>
                                    new RowCondition(
                                        field,
                                        RowTest.In,
                                        [
                                            .. ofShape
                                                .Select(t => KeysOf(t, campaignOf, placementOf)[place])
                                                .Distinct()
                                                .Take(MostNarrowed + 1),
                                        ]
                                    )
                            )
                            .Where(c => c.Values.Count <= MostNarrowed),
                    ],
                    WithVisitors: false
                )
                {
                    WithClicks = true,
                },
                convention,
                cancel
            );
            foreach (var row in report.Rows)
            {
                var f = row.Figures;
                found[(ofShape.Key, new RowKey(row.Keys))] = new OwnFigures(f.Clicks, f.Visits, f.VisitsByLink, f.Conversions);
            }
        }

        return (target, day) =>
            found.GetValueOrDefault(
                (ShapeOf(target), new RowKey([.. KeysOf(target, campaignOf, placementOf), Calendar.NameOf(RowKind.Day, day)]))
            );
    }

    private static string ShapeOf(ImportTarget target) => string.Join(',', FieldsOf(target));

    private static List<RowField> FieldsOf(ImportTarget target) =>
        [
            .. target.LinkId is null ? Array.Empty<RowField>() : [new RowField(RowKind.Link)],
            .. target.CampaignId is null ? Array.Empty<RowField>() : [new RowField(RowKind.Campaign)],
            .. target.PlacementId is null ? Array.Empty<RowField>() : [new RowField(RowKind.Placement)],
            .. target.Values.Keys.Order(StringComparer.Ordinal).Select(k => new RowField(RowKind.Field, k)),
        ];

    private static List<string?> KeysOf(ImportTarget target, Func<Guid, string> campaignOf, Func<Guid, string> placementOf) =>
        [
            .. target.LinkId is { } link ? [link.ToString()] : Array.Empty<string>(),
            .. target.CampaignId is { } campaign ? [campaignOf(campaign)] : Array.Empty<string>(),
            .. target.PlacementId is { } placement ? [placementOf(placement)] : Array.Empty<string>(),
            .. target.Values.OrderBy(v => v.Key, StringComparer.Ordinal).Select(v => v.Value),
        ];

    /// <summary>What speaks for a cause, by the targets' keys.</summary>
    private async Task<Dictionary<string, FigureEvidence>> EvidenceAsync(
        Workspace workspace,
        Convention convention,
        IReadOnlyList<(ImportTarget Target, FigureDays Days)> asked,
        DateOnly from,
        DateOnly to,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var evidence = new Dictionary<string, FigureEvidence>(StringComparer.Ordinal);
        if (asked.Count == 0)
        {
            return evidence;
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
        var checkedPages = (await pages.ReadAsync(workspace.Id, cancel)).Pages.ToDictionary(
            p => p.Page,
            p =>
                p.Findings.Where(f => f.GoneAt is null && f.MutedBy is null)
                    .Select(f => new Finding(f.Rule, f.Severity, f.Message, f.Hop))
                    .ToList(),
            StringComparer.Ordinal
        );
        var others = (await book.OtherClicksAsync(workspace.Id, [.. links.Select(l => l.Link.Id)], from, to, cancel)).ToLookup(o =>
            o.LinkId
        );
        var traffic = await strays.ReadAsync(workspace.Id, from, to, cancel);
        var groups = StrayFinder.Find(traffic.Sources, traffic.VisitsOf, convention, traffic.Plan);
        var campaignField = convention.IndexOf(FieldMeaning.Campaign) is var at and >= 0 ? convention.Fields[at].Key : null;
        foreach (var (target, days) in asked.DistinctBy(a => a.Target.Key))
        {
            var covered = finder.Of(target);
            var ofDays = days.Days.Select(d => d.Day).ToHashSet();
            var ofLinks = covered.SelectMany(l => others[l.Link.Id]).Where(o => ofDays.Contains(o.Day)).ToList();
            var known = covered
                .Select(l =>
                    (IReadOnlyList<Finding>)[.. found.GetValueOrDefault(l.Link.Id) ?? [], .. checkedPages.GetValueOrDefault(l.Page) ?? []]
                )
                .ToList();
            var grave = known.Select(f => f.Where(g => ClickGap.Explains(g.Rule)).ToList()).Where(f => f.Count > 0).ToList();
            var values = ValuesOf(target, covered, campaignField, traffic.Plan);
            evidence[target.Key] = new FigureEvidence
            {
                DoubleTaps = ofLinks.Sum(o => o.DoubleTaps),
                Programs = ofLinks.Sum(o => o.Programs),
                Clicked = Sum(covered.Select(l => clicked.GetValueOrDefault(l.Link.Id)).OfType<GapEvidence>()),
                Found = [.. grave.SelectMany(f => f).DistinctBy(f => (f.Rule, f.Message))],
                FoundShare = grave.Count == 0 ? 1 : (double)grave.Count / covered.Count,
                PageMeasured = covered.Count == 0 || covered.Any(l => measured.Contains(l.Page)),
                Strays = StrayMeaning.VisitsOf(groups, values, traffic.Of, traffic.VisitsOf, convention, traffic.Plan),
            };
        }

        return evidence;
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

    /// <summary>Links of a campaign or placement that nobody clicked or visited; the newest ones, where there are more.</summary>
    private const int MostSilent = 5_000;

    private async Task<Dictionary<Guid, string>> TitlesAsync(Guid[] ids, CancellationToken cancel) =>
        await db.Links.AsNoTracking().Where(l => ids.Contains(l.Id)).ToDictionaryAsync(l => l.Id, l => l.Title ?? l.Url, cancel);

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

/// <summary>Other systems' figures beside ours.</summary>
/// <param name="Figures">At most <see cref="ReconcileReader.Most"/>, those worth looking into and with the largest difference first.</param>
/// <param name="Count">How many there are in all.</param>
/// <param name="Unmatched">Names that mean nothing known, those of most rows first, at most <see cref="ReconcileReader.MostUnmatched"/>.</param>
/// <param name="UnmatchedCount">How many there are in all.</param>
/// <param name="Matches">What names mean that were found or put right.</param>
public sealed record Reconciled(
    IReadOnlyList<ReconciledFigure> Figures,
    int Count,
    IReadOnlyList<UnmatchedName> Unmatched,
    int UnmatchedCount,
    IReadOnlyList<FigureMatch> Matches
);

/// <summary>One figure of another system beside ours.</summary>
/// <param name="System">The other system.</param>
/// <param name="Target">What it is about.</param>
/// <param name="Called">What that is called: link, campaign, placement and values; at least one.</param>
/// <param name="Gap">The gap and its causes.</param>
/// <param name="Theirs">All of their figures.</param>
/// <param name="From">The first day they have a figure of.</param>
/// <param name="To">The last one.</param>
/// <param name="Weeks">The gap week by week, the oldest first.</param>
public sealed record ReconciledFigure(
    string System,
    ImportTarget Target,
    IReadOnlyList<string> Called,
    FigureGap Gap,
    OtherFigures Theirs,
    DateOnly From,
    DateOnly To,
    IReadOnlyList<FigureWeek> Weeks
)
{
    /// <summary>The same for the same system, target and kind of figure; 32 letters and digits.</summary>
    public string Key => Convert.ToHexStringLower(XxHash128.Hash(Encoding.UTF8.GetBytes($"{System}\u001f{Gap.Kind}\u001f{Target.Key}")));
}

/// <summary>A name in another system's files that means nothing known.</summary>
/// <param name="System">The other system.</param>
/// <param name="Part">Whether it names a link, a campaign or a placement.</param>
/// <param name="Text">The name.</param>
/// <param name="Problem">Why it means nothing.</param>
/// <param name="Rows">Figures by day that wait for it.</param>
/// <param name="LikelyId">The campaign or placement it probably means; null where none is near.</param>
/// <param name="Likely">What that is called.</param>
public sealed record UnmatchedName(
    string System,
    TargetPart Part,
    string Text,
    ImportProblem Problem,
    int Rows,
    Guid? LikelyId,
    string? Likely
);

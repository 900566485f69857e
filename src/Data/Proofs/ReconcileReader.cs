using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Proofs.Reconciling;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.Proofs;

/// <summary>Sets other systems' figures beside ours: the same targets on the same days, as Arrivals counts them.</summary>
public sealed class ReconcileReader(
    BeaconDb db,
    FigureBook book,
    FigureTargetReader targetReader,
    OwnFigureReader ownReader,
    FigureEvidenceReader evidenceReader
)
{
    /// <summary>Gaps that are listed, and whose causes are looked for (ours).</summary>
    public const int Most = 200;

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
        var read = await book.ReadAsync(workspace.Id, from, to, null, cancel);
        var matched = await targetReader.ReadAsync(workspace.Id, read, cancel);
        var targets = matched.Targets;
        var own = await ownReader.ReadAsync(workspace, convention, from, to, targets.Values, matched.Plan, cancel);
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
        var evidence = await evidenceReader.ReadAsync(
            workspace,
            convention,
            listed.ConvertAll(g => (g.Row.Target, g.Row.Days)),
            from,
            to,
            now,
            cancel
        );
        var today = Core.Plan.WorkspaceDay.At(now, workspace.TimeZone);
        var campaigns = matched.Plan.Campaigns.ToDictionary(c => c.Id, c => c.Name);
        var placements = matched.Plan.Placements.ToDictionary(p => p.Id, p => p.Name);
        var links = await TitlesAsync([.. listed.Select(g => g.Row.Target.LinkId).OfType<Guid>()], cancel);
        return new Reconciled(
            [
                .. listed.Select(
                    (g, place) =>
                        new ReconciledFigure(
                            g.Row.System,
                            g.Row.Target,
                            [
                                .. new[]
                                {
                                    g.Row.Target.LinkId is { } link ? links.GetValueOrDefault(link) ?? "a link that is gone" : null,
                                    g.Row.Target.CampaignId is { } campaign ? campaigns[campaign] : null,
                                    g.Row.Target.PlacementId is { } placement ? placements[placement] : null,
                                }.OfType<string>(),
                                .. g.Row.Target.Values.Values,
                            ],
                            FigureGap.Of(
                                g.Gap.Kind,
                                g.Row.Days.Theirs,
                                g.Row.Days.OursOf(g.Gap.Kind),
                                evidence[place] with
                                {
                                    New = g.Row.Days.NewOf(g.Gap.Kind, today),
                                }
                            )!,
                            g.Row.Days.Theirs,
                            g.Row.Days.Days[0].Day,
                            g.Row.Days.Days[^1].Day,
                            g.Row.Days.WeeksOf(g.Gap.Kind)
                        )
                ),
            ],
            all.Count,
            matched.Unmatched,
            matched.UnmatchedCount,
            matched.Matches
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

    private async Task<Dictionary<Guid, string>> TitlesAsync(Guid[] ids, CancellationToken cancel) =>
        await db.Links.AsNoTracking().Where(l => ids.Contains(l.Id)).ToDictionaryAsync(l => l.Id, l => l.Title ?? l.Url, cancel);
}

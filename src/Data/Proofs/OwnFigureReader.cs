using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Imports;
using PreciseBeacon.Core.Proofs.Reconciling;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Reports;

namespace PreciseBeacon.Data.Proofs;

/// <summary>Reads what we count of the targets of other systems' figures, by the reports of Arrivals.</summary>
public sealed class OwnFigureReader(ArrivalsReader arrivals)
{
    /// <summary>Rows are narrowed to single values up to so many; beyond it all are read, which is quicker then.</summary>
    private const int MostNarrowed = 200;

    /// <summary>Ours by target and day, from one report for each kind of target.</summary>
    /// <param name="workspace">The workspace.</param>
    /// <param name="convention">The convention of today.</param>
    /// <param name="from">First day, in the workspace's zone.</param>
    /// <param name="to">Last day.</param>
    /// <param name="targets">The targets.</param>
    /// <param name="plan">What campaigns and placements are called.</param>
    /// <param name="cancel">Gives up.</param>
    /// <returns>Tells a target's figures of a day.</returns>
    public async Task<Func<ImportTarget, DateOnly, OwnFigures>> ReadAsync(
        Workspace workspace,
        Convention convention,
        DateOnly from,
        DateOnly to,
        IEnumerable<ImportTarget> targets,
        TargetNames plan,
        CancellationToken cancel
    )
    {
        var campaigns = plan.Campaigns.ToDictionary(c => c.Id, c => c.Value);
        var placements = plan.Placements.ToDictionary(p => p.Id, p => p.Name);
        List<string?> KeysOf(ImportTarget target) =>
            [
                .. target.LinkId is { } link ? [link.ToString()] : Array.Empty<string>(),
                .. target.CampaignId is { } campaign ? [campaigns[campaign]] : Array.Empty<string>(),
                .. target.PlacementId is { } placement ? [placements[placement]] : Array.Empty<string>(),
                .. target.Values.OrderBy(v => v.Key, StringComparer.Ordinal).Select(v => v.Value),
            ];

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
                                        [.. ofShape.Select(t => KeysOf(t)[place]).Distinct().Take(MostNarrowed + 1)]
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
            found.GetValueOrDefault((ShapeOf(target), new RowKey([.. KeysOf(target), Calendar.NameOf(RowKind.Day, day)])));
    }

    private static string ShapeOf(ImportTarget target) => string.Join(',', FieldsOf(target));

    private static List<RowField> FieldsOf(ImportTarget target) =>
        [
            .. target.LinkId is null ? Array.Empty<RowField>() : [new RowField(RowKind.Link)],
            .. target.CampaignId is null ? Array.Empty<RowField>() : [new RowField(RowKind.Campaign)],
            .. target.PlacementId is null ? Array.Empty<RowField>() : [new RowField(RowKind.Placement)],
            .. target.Values.Keys.Order(StringComparer.Ordinal).Select(k => new RowField(RowKind.Field, k)),
        ];
}

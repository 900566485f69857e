using System.Globalization;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Imports;
using PreciseBeacon.Core.Proofs.Reconciling;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Proofs;
using PreciseBeacon.Data.Reports;

namespace PreciseBeacon.Demo;

/// <summary>What the demo's other systems say of the last five weeks: made from what was clicked, each in its own way.</summary>
public sealed class DemoFigures(BeaconDb db, ConventionReader conventions, ArrivalsReader arrivals, FigureBook book, TimeProvider clock)
{
    private const int Days = 35;
    private const string Who = "Tomas Birch";

    /// <summary>A system's placement, how much more it counts than was clicked here, and how often it shows an ad for each click.</summary>
    private static readonly (string System, string Placement, double More, int ShownPerClick)[] Ads =
    [
        ("Wendfar", "Wendfar search ads", 0.05, 24),
        ("Nattervine", "Nattervine paid posts", 0.16, 90),
        ("Skeinly", "Skeinly paid posts", 0.31, 110),
    ];

    /// <summary>Imports them as their files would.</summary>
    public async Task LoadAsync(Guid workspaceId, DateOnly today, CancellationToken cancel)
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == workspaceId, cancel);
        var clicks = await ClicksAsync(workspace, today.AddDays(-Days), today.AddDays(-1), cancel);
        if (clicks.Count == 0)
        {
            return; // where nobody came, no other system has anything to say either
        }

        foreach (var (system, placement, more, shownPerClick) in Ads)
        {
            await ImportAsync(
                workspaceId,
                system,
                [
                    .. clicks
                        .Where(c => c.Placement == placement)
                        .GroupBy(c => (c.Campaign, c.Day))
                        .Select(g =>
                        {
                            long theirs = More(g.Sum(c => c.Clicks), more, g.Key.Day);
                            return new FigureOfDay(
                                system,
                                Named(campaign: g.Key.Campaign, placement: placement),
                                g.Key.Day,
                                new OtherFigures(Shown: theirs * (shownPerClick + (g.Key.Day.DayNumber % 7)), Clicks: theirs),
                                1
                            );
                        }),
                    // Somebody named a campaign otherwise over there.
                    .. system == "Wendfar"
                        ?
                        [
                            new FigureOfDay(
                                system,
                                Named("Lantern Nigths", placement),
                                today.AddDays(-9),
                                new OtherFigures(Shown: 2_140, Clicks: 86),
                                1
                            ),
                        ]
                        : Array.Empty<FigureOfDay>(),
                ],
                cancel
            );
        }

        // The app counts who went on from its notice; the old address behind it loses their tags.
        await ImportAsync(
            workspaceId,
            "Garden app",
            [
                .. clicks
                    .Where(c => c.Placement == DemoPlan.LosingPlacement)
                    .GroupBy(c => (c.Campaign, c.Day))
                    .Select(g => new FigureOfDay(
                        "Garden app",
                        Named(g.Key.Campaign, DemoPlan.LosingPlacement),
                        g.Key.Day,
                        new OtherFigures(Sent: 400 + (g.Key.Day.DayNumber % 50), Visits: g.Sum(c => c.Clicks)),
                        1
                    )),
            ],
            cancel
        );
    }

    private async Task ImportAsync(Guid workspaceId, string system, IReadOnlyList<FigureOfDay> figures, CancellationToken cancel)
    {
        if (figures.Count == 0)
        {
            return;
        }

        var now = clock.GetUtcNow();
        var import = new FigureImport(
            Guid.CreateVersion7(now),
            system,
            $"{system.ToLowerInvariant().Replace(' ', '-')}.csv",
            figures.Count,
            0,
            figures.Count,
            new Dictionary<ImportProblem, int>(),
            figures.Min(f => f.Day),
            figures.Max(f => f.Day),
            now,
            Who
        );
        await book.BeginAsync(workspaceId, import, new FigureRecipe("Day", Clicks: "Clicks"), cancel);
        await book.StoreAsync(workspaceId, import, figures, clock, cancel);
    }

    /// <summary>Clicks on short links, and visits by links that lead to the page themselves, as Arrivals counts them.</summary>
    private async Task<List<(string Campaign, string Placement, DateOnly Day, long Clicks)>> ClicksAsync(
        Workspace workspace,
        DateOnly from,
        DateOnly to,
        CancellationToken cancel
    )
    {
        var names = await db.Campaigns.AsNoTracking().ToDictionaryAsync(c => c.Value, c => c.Name, cancel);
        var report = await arrivals.ReadAsync(
            new ArrivalsRequest(
                workspace.Id,
                workspace.Currency,
                from,
                to,
                [new RowField(RowKind.Campaign), new RowField(RowKind.Placement), new RowField(RowKind.Day)],
                [],
                WithVisitors: false
            )
            {
                WithClicks = true,
            },
            await conventions.ReadAsync(cancel),
            cancel
        );
        return
        [
            .. report
                .Rows.Where(r => r.Keys is [{ } campaign, not null, not null] && names.ContainsKey(campaign))
                .Select(r =>
                    (
                        names[r.Keys[0]!],
                        r.Keys[1]!,
                        DateOnly.ParseExact(r.Keys[2]!, "yyyy-MM-dd", CultureInfo.InvariantCulture),
                        r.Figures.Clicks + r.Figures.Visits - r.Figures.VisitsByLink
                    )
                )
                .OrderBy(r => r),
        ];
    }

    /// <summary>A share more, now a little less and now a little more of it.</summary>
    private static long More(long clicks, double share, DateOnly day) =>
        (long)Math.Round(clicks * (1 + (share * (0.8 + (0.1 * (day.DayNumber % 5))))), MidpointRounding.AwayFromZero);

    private static NamedTarget Named(string campaign, string placement) => new("", campaign, placement, new Dictionary<string, string>());
}

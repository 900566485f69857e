using System.Collections.Frozen;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Arrivals;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.ResultsPages;

namespace PreciseBeacon.Web.Ledger;

/// <summary>What came of one link, for its own page.</summary>
public sealed class LinkResults(
    BeaconDb db,
    ConventionReader conventions,
    LinkCountsReader counts,
    WorkspaceReader workspaces,
    ResultPageStore pages,
    ArrivalsReport report,
    TimeProvider clock
)
{
    /// <summary>Counts of a link.</summary>
    /// <param name="id">The link.</param>
    /// <param name="range"><c>day</c> (yesterday and today, by hour), <c>week</c>, <c>month</c> (7 and 30 days), <c>all</c>, or <c>own</c>.</param>
    /// <param name="from">The first day of an own range, in the workspace's zone.</param>
    /// <param name="to">Its last day.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<Outcome<LinkResultsAnswer>> ReadAsync(Guid id, string range, DateOnly? from, DateOnly? to, CancellationToken cancel)
    {
        var link = await db.Links.AsNoTracking().Where(l => l.Id == id).Select(l => new { l.CreatedAt }).SingleOrDefaultAsync(cancel);
        if (link is null)
        {
            return Refusal.NotFound("link");
        }

        var workspace = await workspaces.ReadAsync(cancel);
        if (StretchOf(range, from, to, link.CreatedAt, workspace.TimeZone) is not var (first, until))
        {
            return Refusal.Invalid(
                "range-unknown",
                "A range is day, week, month or all, or own with a first and a last day, the last not before the first."
            );
        }

        var counted = await counts.ReadAsync(id, first, until, workspace.TimeZone, cancel);

        // Nothing arrived on days to come, and a report has ten years at most.
        var today = workspaces.TodayIn(workspace);
        var end = WorkspaceDay.At(until.AddTicks(-1), workspace.TimeZone);
        end = end < today ? end : today;
        var begin = WorkspaceDay.At(first, workspace.TimeZone);
        begin = begin > end ? end : begin;

        // The board's line is of the same days, read as Arrivals reads them, so that the two never differ.
        var (answer, refusal) = await report.ReadAsync(
            new ArrivalsQuery
            {
                From =
                    end.DayNumber - begin.DayNumber > ArrivalsEndpoints.LongestRange ? end.AddDays(-ArrivalsEndpoints.LongestRange) : begin,
                To = end,
                Rows = "",
                Series = counted.Unit == "hour" ? null : counted.Unit,
                Where = [$"{new RowField(RowKind.Link)}:is:{id}"],
            },
            cancel
        );
        if (answer is null)
        {
            return refusal!;
        }

        return new LinkResultsAnswer(
            counted,
            await ReuseAsync(id, cancel),
            await pages.OfLinkAsync(id, cancel),
            counted.Unit == "hour" ? [] : answer.Series,
            answer.Total,
            workspace.TimeZone,
            workspace.RawFrom is { } raw && WorkspaceDay.At(first, workspace.TimeZone) < raw ? raw : null
        );
    }

    private async Task<IReadOnlyList<ReuseEvidence>> ReuseAsync(Guid id, CancellationToken cancel)
    {
        var own = await db.SiteHosts.Select(h => h.Host).Concat(db.ShortDomains.Select(d => d.Host)).ToListAsync(cancel);
        return CodeReuse.Find(
            await counts.OutsidePaperAsync(id, cancel),
            own.ToFrozenSet(StringComparer.OrdinalIgnoreCase),
            (await conventions.ReadAsync(cancel)).ReferrerKinds
        );
    }

    private (DateTimeOffset From, DateTimeOffset Until)? StretchOf(
        string range,
        DateOnly? from,
        DateOnly? to,
        DateTimeOffset made,
        string zone
    )
    {
        var now = clock.GetUtcNow();
        var today = WorkspaceDay.At(now, zone);
        return range switch
        {
            "day" => (StartOf(today.AddDays(-1)), now),
            "week" => (StartOf(today.AddDays(-6)), now),
            "month" => (StartOf(today.AddDays(-29)), now),
            "all" => (made < now ? made : now.AddHours(-1), now),
            "own" when from is { } first && to is { } last && first <= last && first.Year > 1970 && last.Year < 9999 => (
                StartOf(first),
                StartOf(last.AddDays(1))
            ),
            _ => null,
        };

        DateTimeOffset StartOf(DateOnly day) =>
            WorkspaceMoment.Read(day.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture), zone)!.Value;
    }
}

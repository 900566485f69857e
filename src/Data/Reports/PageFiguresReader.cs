using Npgsql;
using PreciseBeacon.Core.Conventions;

namespace PreciseBeacon.Data.Reports;

/// <summary>What came of a page.</summary>
/// <param name="Page">Host and path.</param>
/// <param name="Seen">How often it was seen.</param>
/// <param name="Visits">In how many visits.</param>
/// <param name="Entered">Visits that began on it.</param>
/// <param name="Left">Visits that ended on it.</param>
/// <param name="Seconds">From its views to the next ones of the same visits, added up; the last view of a visit has none.</param>
/// <param name="Followed">Views with a next one.</param>
public sealed record PageFigures(string Page, long Seen, long Visits, long Entered, long Left, double Seconds, long Followed);

/// <summary>What pages are ordered by, the most first.</summary>
public enum PageOrder
{
    Seen,
    Visits,
    Entered,
    Left,
}

/// <summary>Adds up the pages of single visits, as far back as these are kept.</summary>
public sealed class PageFiguresReader(NpgsqlDataSource database, TrafficSourceCache sources, PlanOfVisitsReader plans)
{
    /// <summary>Pages seen in visits that fulfil the request's conditions; its rows are not looked at.</summary>
    /// <param name="request">The range and conditions.</param>
    /// <param name="convention">The convention to read by.</param>
    /// <param name="search">Only pages with this in their address, whatever its case; empty for all.</param>
    /// <param name="order">What they are ordered by; pages that are alike by their address.</param>
    /// <param name="skip">Leaves out so many.</param>
    /// <param name="most">At most so many.</param>
    /// <param name="cancel">Gives up.</param>
    /// <returns>The pages, and how many there are in all.</returns>
    public async Task<(IReadOnlyList<PageFigures> Pages, long Found)> ReadAsync(
        ArrivalsRequest request,
        Convention convention,
        string search,
        PageOrder order,
        int skip,
        int most,
        CancellationToken cancel
    )
    {
        var plan = await plans.ReadAsync(request.WorkspaceId, cancel);
        var maps = await new RowMapReader(database, sources).ReadAsync(request with { Rows = [] }, convention, plan, cancel);

        // A visit of the last day may go on for long after it; pages seen are of their visit's day.
        await using var command = database.CreateCommand(
            $"""
            with v as (
                select v.id, v.landing_page_id, v.last_page_id from visit v
                where v.workspace_id = $1 and v.day between $2 and $3
                    and v.started_at between $2::timestamp - interval '1 day' and $3::timestamp + interval '2 days'{VisitConditions.SqlOf(
                maps,
                7
            )}
            ), viewed as (
                select pv.page_id, pv.visit_id, pv.at, lead(pv.at) over (partition by pv.visit_id order by pv.place) as next
                from page_view pv join v on v.id = pv.visit_id
                where pv.workspace_id = $1 and pv.day between $2 and $3 and pv.at >= $2::timestamp - interval '1 day'
            ), seen as (
                select page_id, count(*) as seen, count(distinct visit_id) as visits,
                    coalesce(sum(extract(epoch from next - at)), 0)::float8 as seconds, count(next) as followed
                from viewed group by 1
            ), entered as (
                select landing_page_id as page_id, count(*) as entered from v group by 1
            ), gone as (
                select last_page_id as page_id, count(*) as gone from v group by 1
            )
            select p.address, coalesce(seen, 0) as seen, coalesce(visits, 0) as visits, coalesce(entered, 0) as entered, coalesce(gone, 0) as gone,
                coalesce(seconds, 0), coalesce(followed, 0), count(*) over ()
            from seen full join entered using (page_id) full join gone using (page_id) join visited_page p on p.id = page_id
            where strpos(lower(p.address), lower($4)) > 0
            order by {ColumnOf(order)} desc, p.address limit $5 offset $6
            """
        );
        object[] values = [request.WorkspaceId, request.From, request.To, search, most, skip, .. VisitConditions.ValuesOf(maps)];
        foreach (object value in values)
        {
            command.Parameters.Add(new() { Value = value });
        }

        var pages = new List<PageFigures>();
        long found = 0;
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            found = reader.GetInt64(7);
            pages.Add(
                new PageFigures(
                    reader.GetString(0),
                    reader.GetInt64(1),
                    reader.GetInt64(2),
                    reader.GetInt64(3),
                    reader.GetInt64(4),
                    reader.GetDouble(5),
                    reader.GetInt64(6)
                )
            );
        }

        return (pages, found);
    }

    private static string ColumnOf(PageOrder order) =>
        order switch
        {
            PageOrder.Visits => "visits",
            PageOrder.Entered => "entered",
            PageOrder.Left => "gone",
            _ => "seen",
        };
}

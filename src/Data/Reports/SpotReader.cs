using Npgsql;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>What came of a spot.</summary>
/// <param name="Name">Its name, as the page gives it.</param>
/// <param name="Seen">How often it was seen, at most once for each page view.</param>
/// <param name="SeenVisits">Visits in which it was seen.</param>
/// <param name="Clicked">How often it was clicked.</param>
/// <param name="ClickedVisits">Visits in which it was clicked.</param>
/// <param name="SeenAndClicked">Visits in which it was seen and clicked.</param>
/// <param name="AfterSeen">Conversions later in visits that saw it.</param>
/// <param name="AfterClicked">Conversions later in visits that clicked it.</param>
public sealed record SpotFigures(
    string Name,
    long Seen,
    long SeenVisits,
    long Clicked,
    long ClickedVisits,
    long SeenAndClicked,
    long AfterSeen,
    long AfterClicked
);

/// <summary>What spots are ordered by, the most first.</summary>
public enum SpotOrder
{
    Seen,
    Clicked,
    Rate,
    Conversions,
}

/// <summary>Adds up what single visits did with spots, as far back as these are kept.</summary>
public sealed class SpotReader(NpgsqlDataSource database, TrafficSourceCache sources, PlanOfVisitsReader plans)
{
    /// <summary>Spots of visits that fulfil the request's conditions; its rows are not looked at.</summary>
    /// <param name="request">The range and conditions.</param>
    /// <param name="convention">The convention to read by.</param>
    /// <param name="search">Only spots with this in their name, whatever its case; empty for all.</param>
    /// <param name="order">What they are ordered by; spots that are alike by their name.</param>
    /// <param name="skip">Leaves out so many.</param>
    /// <param name="most">At most so many.</param>
    /// <param name="cancel">Gives up.</param>
    /// <returns>The spots, and how many there are in all.</returns>
    public async Task<(IReadOnlyList<SpotFigures> Spots, long Found)> ReadAsync(
        ArrivalsRequest request,
        Convention convention,
        string search,
        SpotOrder order,
        int skip,
        int most,
        CancellationToken cancel
    )
    {
        var plan = await plans.ReadAsync(request.WorkspaceId, cancel);
        var maps = await new RowMapReader(database, sources).ReadAsync(request with { Rows = [] }, convention, plan, cancel);
        string visits =
            maps.Count == 0
                ? ""
                : $" join visit v on v.workspace_id = s.workspace_id and v.visitor = s.visitor and v.day = s.day and v.started_at = s.at and v.id = s.visit_id{VisitConditions.SqlOf(maps, 7)}";
        await using var command = database.CreateCommand(
            $"""
            with spots as (
                select s.name, sum(s.seen)::bigint as seen, count(*) filter (where s.seen > 0) as seen_visits,
                    sum(s.clicked)::bigint as clicked, count(*) filter (where s.clicked > 0) as clicked_visits,
                    count(*) filter (where s.seen > 0 and s.clicked > 0) as both_visits,
                    sum(s.after_seen)::bigint as after_seen, sum(s.after_clicked)::bigint as after_clicked
                from visit_spot s{visits}
                where s.workspace_id = $1 and s.day between $2 and $3
                    and s.at between $2::timestamp - interval '1 day' and $3::timestamp + interval '2 days'
                    and strpos(lower(s.name), lower($4)) > 0
                group by 1
            )
            select *, count(*) over () from spots order by {ColumnOf(order)} desc nulls last, name limit $5 offset $6
            """
        );
        foreach (
            object value in (object[])[request.WorkspaceId, request.From, request.To, search, most, skip, .. VisitConditions.ValuesOf(maps)]
        )
        {
            command.Parameters.Add(new() { Value = value });
        }

        var spots = new List<SpotFigures>();
        long found = 0;
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            found = reader.GetInt64(8);
            spots.Add(
                new SpotFigures(
                    reader.GetString(0),
                    reader.GetInt64(1),
                    reader.GetInt64(2),
                    reader.GetInt64(3),
                    reader.GetInt64(4),
                    reader.GetInt64(5),
                    reader.GetInt64(6),
                    reader.GetInt64(7)
                )
            );
        }

        return (spots, found);
    }

    private static string ColumnOf(SpotOrder order) =>
        order switch
        {
            SpotOrder.Clicked => "clicked",
            SpotOrder.Rate => "both_visits::numeric / nullif(seen_visits, 0)",
            SpotOrder.Conversions => "after_clicked",
            _ => "seen",
        };
}

using Npgsql;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Reports;

/// <summary>
/// Reads arrivals from the summaries. The ways visits arrived are read through the convention here, over the distinct
/// ones only; the sums are the database's.
/// </summary>
public sealed class ArrivalsReader(NpgsqlDataSource database)
{
    /// <summary>Reads one breakdown.</summary>
    public async Task<Arrivals> ReadAsync(ArrivalsRequest request, Convention convention, CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        var groups = new Dictionary<GroupKey, int>();
        var ids = new List<Guid>();
        var groupOf = new List<int>();
        foreach (var way in await WaysAsync(connection, request, cancel))
        {
            if (request.Where.All(w => way.KeyOf(w.Dimension, convention) == w.Value))
            {
                var key = new GroupKey([.. request.Rows.Select(r => way.KeyOf(r, convention))]);
                ids.Add(way.Id);
                groupOf.Add(groups.TryAdd(key, groups.Count) ? groups.Count - 1 : groups[key]);
            }
        }

        var figures = Enumerable.Repeat(Figures.Zero, groups.Count + 1).ToArray();
        await ForEachAsync(
            connection,
            request,
            ids,
            groupOf,
            VisitsSql,
            (row, reader) =>
                figures[row] = figures[row] with
                {
                    Visits = reader.GetInt64(1),
                    PageViews = reader.GetInt64(2),
                    Seconds = reader.GetInt64(3),
                    Bounces = reader.GetInt64(4),
                    ConvertingVisits = reader.GetInt64(5),
                    VisitsWithId = reader.GetInt64(6),
                },
            cancel
        );
        await ForEachAsync(
            connection,
            request,
            ids,
            groupOf,
            VisitorsSql,
            (row, reader) => figures[row] = figures[row] with { Visitors = reader.GetInt64(1) },
            cancel
        );

        var elsewhere = new SortedDictionary<string, decimal>(StringComparer.Ordinal);
        await ForEachAsync(
            connection,
            request,
            ids,
            groupOf,
            ConversionsSql,
            (row, reader) =>
            {
                string currency = reader.GetString(1);
                bool own = currency.Length == 0 || currency == request.Currency;
                figures[row] = figures[row] with
                {
                    Conversions = figures[row].Conversions + reader.GetInt64(2),
                    VerifiedConversions = figures[row].VerifiedConversions + reader.GetInt64(4),
                    Revenue = figures[row].Revenue + (own ? reader.GetDecimal(3) : 0),
                };
                if (!own && row == groups.Count)
                {
                    elsewhere[currency] = reader.GetDecimal(3);
                }
            },
            cancel
        );

        var days = new List<ArrivalsDay>();
        await ForEachAsync(
            connection,
            request,
            ids,
            groupOf,
            request.ByMonth ? ByMonthSql : ByDaySql,
            (_, reader) => days.Add(new ArrivalsDay(reader.GetFieldValue<DateOnly>(1), reader.GetInt64(2), reader.GetInt64(3))),
            cancel
        );

        var rows = groups
            .Select(g => new ArrivalsRow(g.Key.Keys, figures[g.Value]))
            .OrderByDescending(r => r.Figures.Visits)
            .ThenBy(r => string.Join('\n', r.Keys), StringComparer.Ordinal)
            .ToList();
        return new Arrivals(rows, figures[^1], days, elsewhere, await LostAsync(connection, request, cancel));
    }

    /// <summary>The links the visits of a row came by, those with most visits first; none for visits whose link isn't known.</summary>
    /// <param name="request">The range and the row's conditions; its rows are not looked at.</param>
    /// <param name="convention">The convention to read by.</param>
    /// <param name="most">How many links at most.</param>
    /// <param name="cancel">Gives up reading.</param>
    public async Task<IReadOnlyList<LinkVisits>> LinksAsync(
        ArrivalsRequest request,
        Convention convention,
        int most,
        CancellationToken cancel
    )
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        var ids = (await WaysAsync(connection, request, cancel))
            .Where(way => request.Where.All(w => way.KeyOf(w.Dimension, convention) == w.Value))
            .Select(way => way.Id)
            .ToArray();
        await using var command = new NpgsqlCommand(
            """
            select link_id, count(*) from visit
            where workspace_id = $1 and day between $2 and $3 and combination_id = any($4) and link_id is not null
            group by link_id order by 2 desc, link_id limit $5
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = request.WorkspaceId },
                new() { Value = request.From },
                new() { Value = request.To },
                new() { Value = ids },
                new() { Value = most },
            },
        };
        var links = new List<LinkVisits>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            links.Add(new LinkVisits(reader.GetGuid(0), reader.GetInt64(1)));
        }

        return links;
    }

    /// <summary>Every way in which visits ever arrived, with how many did.</summary>
    public async Task<IReadOnlyList<(TrafficSource Way, long Visits)>> AllWaysAsync(Guid workspaceId, CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var command = new NpgsqlCommand(
            $"{WayColumns}, (select sum(d.visits) from visit_month d where d.workspace_id = $1 and d.combination_id = c.id)::bigint from combination c where c.workspace_id = $1",
            connection
        );
        command.Parameters.Add(new() { Value = workspaceId });
        var ways = new List<(TrafficSource, long)>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            if (!reader.IsDBNull(WayColumnCount))
            {
                ways.Add((ReadWay(reader), reader.GetInt64(WayColumnCount)));
            }
        }

        return ways;
    }

    private const string WayColumns =
        "select c.id, c.source, c.medium, c.campaign, c.term, c.content, c.tag_id, c.referrer_host, c.landing_page, c.device, c.printed";

    private const int WayColumnCount = 11;

    private const string Map = "with map as (select * from unnest($6, $7) as m(combination_id, row)) ";

    /// <summary>Days outside the whole months of the range; $3 and $4 are the last day before and the first after them.</summary>
    private const string Days = "workspace_id = $1 and (day between $2 and $3 or day between $4 and $5)";

    private const string Months = "workspace_id = $1 and month > $3 and month < $4";

    private const string VisitFigures = "combination_id, visits, page_views, events, seconds, bounces, converting_visits, with_id";

    private const string VisitSpans =
        $"(select {VisitFigures} from visit_day where {Days} union all select {VisitFigures} from visit_month where {Months})";

    private const string ConversionFigures = "combination_id, currency, conversions, revenue, verified";

    private const string ConversionSpans =
        $"(select {ConversionFigures} from conversion_day where {Days} union all select {ConversionFigures} from conversion_month where {Months})";

    private const string VisitsSql =
        Map
        + $"""
            select map.row, coalesce(sum(d.visits), 0)::bigint, coalesce(sum(d.page_views), 0)::bigint, coalesce(sum(d.seconds), 0)::bigint,
                coalesce(sum(d.bounces), 0)::bigint, coalesce(sum(d.converting_visits), 0)::bigint, coalesce(sum(d.with_id), 0)::bigint
            from {VisitSpans} d join map on map.combination_id = d.combination_id
            group by grouping sets ((map.row), ())
            """;

    private const string VisitorsSql =
        Map
        + """
            select map.row, count(distinct d.visitor)
            from visitor_day d join map on map.combination_id = d.combination_id
            where d.workspace_id = $1 and d.day between $2 and $5
            group by grouping sets ((map.row), ())
            """;

    private const string ConversionsSql =
        Map
        + $"""
            select map.row, d.currency, sum(d.conversions)::bigint, sum(d.revenue), sum(d.verified)::bigint
            from {ConversionSpans} d join map on map.combination_id = d.combination_id
            group by grouping sets ((map.row, d.currency), (d.currency))
            """;

    private const string ByDaySql =
        Map
        + """
            select 0, d.day, sum(d.visits)::bigint, sum(d.converting_visits)::bigint
            from visit_day d join map on map.combination_id = d.combination_id
            where d.workspace_id = $1 and d.day between $2 and $5
            group by d.day order by d.day
            """;

    /// <summary>A month at an end of the range that is not whole counts with the days of the range only.</summary>
    private const string ByMonthSql =
        Map
        + $"""
            select 0, d.month, sum(d.visits)::bigint, sum(d.converting_visits)::bigint
            from (select date_trunc('month', day)::date as month, combination_id, visits, converting_visits from visit_day where {Days}
                union all select month, combination_id, visits, converting_visits from visit_month where {Months}) d
            join map on map.combination_id = d.combination_id
            group by d.month order by d.month
            """;

    private static async Task<List<TrafficSource>> WaysAsync(NpgsqlConnection connection, ArrivalsRequest request, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            $"""
            {WayColumns}
            from combination c
            where c.workspace_id = $1
                and c.id in (select combination_id from visit_day where {Days} union select combination_id from visit_month where {Months})
            """,
            connection
        );
        AddRange(command, request);
        var ways = new List<TrafficSource>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            ways.Add(ReadWay(reader));
        }

        return ways;
    }

    private static TrafficSource ReadWay(NpgsqlDataReader reader)
    {
        return new TrafficSource(
            reader.GetGuid(0),
            new ArrivalTags(Text(1), Text(2), Text(3), Text(4), Text(5), Text(6)),
            reader.GetString(7),
            reader.GetString(8),
            reader.GetString(9),
            reader.GetBoolean(10)
        );

        string? Text(int column) => reader.IsDBNull(column) ? null : reader.GetString(column);
    }

    /// <summary>Runs a query whose first column is the row, null for the total.</summary>
    private static async Task ForEachAsync(
        NpgsqlConnection connection,
        ArrivalsRequest request,
        List<Guid> ids,
        List<int> groupOf,
        string sql,
        Action<int, NpgsqlDataReader> take,
        CancellationToken cancel
    )
    {
        int total = groupOf.Count == 0 ? 0 : groupOf.Max() + 1;
        await using var command = new NpgsqlCommand(sql, connection);
        AddRange(command, request);
        command.Parameters.Add(new() { Value = ids.ToArray() });
        command.Parameters.Add(new() { Value = groupOf.ToArray() });
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            take(reader.IsDBNull(0) ? total : reader.GetInt32(0), reader);
        }
    }

    private static async Task<long> LostAsync(NpgsqlConnection connection, ArrivalsRequest request, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            "select coalesce(sum(lost), 0)::bigint from event_loss where workspace_id = $1 and day between $2 and $3",
            connection
        );
        command.Parameters.Add(new() { Value = request.WorkspaceId });
        command.Parameters.Add(new() { Value = request.From });
        command.Parameters.Add(new() { Value = request.To });
        return (long)(await command.ExecuteScalarAsync(cancel))!;
    }

    private static void AddRange(NpgsqlCommand command, ArrivalsRequest request)
    {
        command.Parameters.Add(new() { Value = request.WorkspaceId });
        var (before, after) = request.AroundWholeMonths;
        command.Parameters.Add(new() { Value = request.From });
        command.Parameters.Add(new() { Value = before });
        command.Parameters.Add(new() { Value = after });
        command.Parameters.Add(new() { Value = request.To });
    }

    /// <summary>The keys of a row, compared one by one.</summary>
    private sealed record GroupKey(IReadOnlyList<string?> Keys)
    {
        public bool Equals(GroupKey? other) => other is not null && Keys.SequenceEqual(other.Keys);

        public override int GetHashCode() => Keys.Aggregate(17, HashCode.Combine);
    }
}

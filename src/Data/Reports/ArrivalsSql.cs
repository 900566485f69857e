using Npgsql;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>
/// The queries of one report. The first columns of each are the groups of <see cref="RowMap"/>s, all null for the total. Parameters: the
/// workspace, the first day, the last day before and the first day after the whole months, the last day; then ids and groups of each map.
/// </summary>
internal sealed class ArrivalsSql(ArrivalsRequest request, IReadOnlyList<RowMap> maps)
{
    private const int FirstMap = 6;
    private const string RangeOfDays = "workspace_id = $1 and day between $2 and $5";

    /// <summary>Days outside the whole months of the range.</summary>
    private const string Days = "workspace_id = $1 and (day between $2 and $3 or day between $4 and $5)";

    private const string Months = "workspace_id = $1 and month > $3 and month < $4";

    private const string Summed = "visits, page_views, events, seconds, bounces, converting_visits, with_id";

    private const string SummedConversions = "currency, conversions, revenue, verified";

    /// <summary>Sources alone are summed up by month and day; sources by day, by day; all else is in the visits only.</summary>
    private readonly bool _fromVisits = maps.Any(m => m.Table is not (RowTable.Source or RowTable.Day));

    private readonly bool _byDay = maps.Any(m => m.Table == RowTable.Day);

    private string Groups => string.Concat(maps.Select((_, i) => $"m{i}.g, "));

    private string GroupBy =>
        maps.Count == 0 ? "" : $"group by grouping sets (({string.Join(", ", maps.Select((_, i) => $"m{i}.g"))}), ())";

    /// <summary>Visits, page views, events, seconds, bounces, converting visits, visits with an id.</summary>
    public string Visits =>
        _fromVisits
            ? $"""
                select {Groups}count(*), coalesce(sum(v.page_views), 0)::bigint, coalesce(sum(v.events), 0)::bigint,
                    coalesce(sum(v.seconds), 0)::bigint, count(*) filter (where v.bounced), count(*) filter (where v.conversions > 0),
                    count(*) filter (where v.has_id)
                from (select * from visit where {RangeOfDays}) v {Joins("v")} {GroupBy}
                """
            : $"""
                select {Groups}{string.Join(", ", Summed.Split(", ").Select(c => $"coalesce(sum(v.{c}), 0)::bigint"))}
                from {Sums(Summed, "source")} v {Joins("v")} {GroupBy}
                """;

    /// <summary>Distinct visitors.</summary>
    public string Visitors =>
        $"""
            select {Groups}count(distinct v.visitor)
            from (select * from visit where {RangeOfDays}) v {Joins("v")} {GroupBy}
            """;

    /// <summary>By currency: the currency, conversions, revenue, those verified.</summary>
    public string Conversions =>
        $"""
            select {Groups}v.currency, sum(v.conversions)::bigint, sum(v.revenue), sum(v.verified)::bigint
            from {(_fromVisits ? ConvertedVisits : Sums(SummedConversions, "conversion"))} v {Joins("v")}
            {(
                maps.Count == 0
                    ? "group by v.currency"
                    : $"group by grouping sets (({string.Join(", ", maps.Select((_, i) => $"m{i}.g"))}, v.currency), (v.currency))"
            )}
            """;

    /// <summary>Day or first day of the month, visits, converting visits.</summary>
    public string Series
    {
        get
        {
            string point = request.ByMonth ? "date_trunc('month', v.day)::date" : "v.day";
            if (_fromVisits)
            {
                return $"""
                    select {point}, count(*), count(*) filter (where v.conversions > 0)
                    from (select * from visit where {RangeOfDays}) v {Joins("v")} group by 1 order by 1
                    """;
            }

            // A month at an end of the range that is not whole counts with the days of the range only.
            return request.ByMonth && !_byDay
                ? $"""
                    select v.month, sum(v.visits)::bigint, sum(v.converting_visits)::bigint
                    from (select date_trunc('month', day)::date as month, source_id, visits, converting_visits from source_day where {Days}
                        union all select month, source_id, visits, converting_visits from source_month where {Months}) v
                    {Joins("v")} group by 1 order by 1
                    """
                : $"""
                    select {point}, sum(v.visits)::bigint, sum(v.converting_visits)::bigint
                    from (select * from source_day where {RangeOfDays}) v {Joins("v")} group by 1 order by 1
                    """;
        }
    }

    /// <summary>Adds what the queries refer to.</summary>
    public void AddParameters(NpgsqlBatchCommand command)
    {
        var (before, after) = request.AroundWholeMonths;
        object[] range = [request.WorkspaceId, request.From, before, after, request.To];
        foreach (object value in range)
        {
            command.Parameters.Add(new() { Value = value });
        }

        foreach (var map in maps)
        {
            command.Parameters.Add(new() { Value = map.Ids.ToArray() });
            command.Parameters.Add(new() { Value = map.Groups.ToArray() });
        }
    }

    /// <summary>What the row of some groups is called, in the order of the rows asked for.</summary>
    public IReadOnlyList<string?> NamesOf(int[] groups)
    {
        string?[] names = new string?[request.Rows.Count];
        for (int i = 0; i < maps.Count; i++)
        {
            for (int f = 0; f < maps[i].Fields.Count; f++)
            {
                names[maps[i].Fields[f].Place] = maps[i].Names[groups[i]][f];
            }
        }

        return names;
    }

    private string Joins(string visits) =>
        string.Concat(
            maps.Select(
                (m, i) =>
                    $"\njoin unnest(${FirstMap + (2 * i)}::int[], ${FirstMap + (2 * i) + 1}::int[]) as m{i}(id, g) on m{i}.id = {Qualified(visits, m)}"
            )
        );

    private static string Qualified(string visits, RowMap map) =>
        map.Table == RowTable.Day ? $"({visits}.day - date '0001-01-01')" : $"{visits}.{map.Column}";

    private string Sums(string columns, string table) =>
        _byDay
            ? $"(select day, source_id, {columns} from {table}_day where {RangeOfDays})"
            : $"(select source_id, {columns} from {table}_day where {Days} union all select source_id, {columns} from {table}_month where {Months})";

    private const string ConvertedVisits = $"""
        (select v.source_id, v.landing_page_id, v.last_page_id, v.place_id, v.device_id, v.hour, v.day, c.currency, c.conversions, c.revenue, c.verified
        from (select * from visit where {RangeOfDays} and conversions > 0) v
        join (
            select visit_id, coalesce(currency, '') as currency, count(*) as conversions, sum(coalesce(value, 0)) as revenue,
                count(*) filter (where verified) as verified
            from conversion where {RangeOfDays} group by 1, 2
        ) c on c.visit_id = v.id)
        """;
}

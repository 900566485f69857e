using Npgsql;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>
/// The queries of one report. The first columns of each are the groups of the <see cref="RowMap"/>s, counted from 1. Parameters: the
/// workspace, the first day, the last day before and the first day after the whole months, the last day; then of each map its groups by
/// id, and its first id.
/// </summary>
internal sealed class ArrivalsSql(ArrivalsRequest request, IReadOnlyList<RowMap> maps)
{
    /// <summary>Reports add up much at once, and never long enough for compiling to pay.</summary>
    public const string Settings = "set local jit = off; set local work_mem = '64MB'";

    private const int FirstMap = 6;
    private const string RangeOfDays = "workspace_id = $1 and day between $2 and $5";

    /// <summary>Days outside the whole months of the range.</summary>
    private const string Days = "workspace_id = $1 and (day between $2 and $3 or day between $4 and $5)";

    private const string Months = "workspace_id = $1 and month > $3 and month < $4";

    private const string Summed = "visits, page_views, events, seconds, bounces, converting_visits, with_id";

    private const string SummedConversions = "currency, conversions, revenue, verified";

    private const string AllVisits = $"(select * from visit where {RangeOfDays})";

    /// <summary>A conversion has its visit's keys beside it, so that the visits need not be gone through again.</summary>
    private const string SingleConversions = $"""
        (select source_id, landing_page_id, last_page_id, place_id, device_id, hour, day, coalesce(currency, '') as currency, 1 as conversions,
            coalesce(value, 0) as revenue, verified::int as verified
        from conversion where {RangeOfDays})
        """;

    /// <summary>Sources alone are summed up by month and day; sources by day, by day; all else is in the visits only.</summary>
    private readonly bool _fromVisits = maps.Any(m => m.Table is not (RowTable.Source or RowTable.Day));

    private readonly bool _byDay = maps.Any(m => m.Table == RowTable.Day);

    /// <summary>
    /// Visits, page views, events, seconds, bounces, converting visits, visits with an id. Whole numbers add up exactly as float8 up to 2⁵³,
    /// and many times faster than as numeric, which is what PostgreSQL adds bigint up as.
    /// </summary>
    public string Visits =>
        _fromVisits
            ? $"""
                select {Groups}count(*), coalesce(sum(v.page_views), 0)::bigint, coalesce(sum(v.events), 0)::bigint,
                    coalesce(sum(v.seconds), 0)::bigint, count(*) filter (where v.bounced), count(*) filter (where v.conversions > 0),
                    count(*) filter (where v.has_id)
                from {Grouped(AllVisits)} {GroupBy}
                """
            : $"""
                select {Groups}{string.Join(", ", Summed.Split(", ").Select(c => $"coalesce(sum(v.{c}::float8), 0)::bigint"))}
                from {Grouped(SourceSums)} {GroupBy}
                """;

    /// <summary>Distinct visitors of each row.</summary>
    public string Visitors => $"select {Groups}count(*) from (select distinct {Groups}v.visitor from {Grouped(AllVisits)}) v {GroupBy}";

    /// <summary>Distinct visitors of all rows together.</summary>
    public string AllVisitors => $"select count(*) from (select distinct v.visitor from {Narrowed(AllVisits)}) v";

    /// <summary>By currency: the currency, conversions, revenue, those verified.</summary>
    public string Conversions =>
        $"""
            select {Groups}v.currency, sum(v.conversions)::bigint, sum(v.revenue), sum(v.verified)::bigint
            from {Grouped(_fromVisits ? SingleConversions : Sums(SummedConversions, "conversion"))} group by {Groups}v.currency
            """;

    /// <summary>Day or first day of the month, visits, converting visits.</summary>
    public string Series
    {
        get
        {
            string point = request.ByMonth ? "date_trunc('month', v.day)::date" : "v.day";
            if (maps.Any(m => m.Conditions.Count > 0 && m.Table is not (RowTable.Source or RowTable.Day)))
            {
                return $"select {point}, count(*), count(*) filter (where v.conversions > 0) from {Narrowed(AllVisits)} group by 1 order by 1";
            }

            // A month at an end of the range that is not whole counts with the days of the range only.
            return request.ByMonth && !maps.Any(m => m.Conditions.Count > 0 && m.Table == RowTable.Day)
                ? $"""
                    select v.month, sum(v.visits::float8)::bigint, sum(v.converting_visits::float8)::bigint
                    from {Narrowed(
                        $"(select date_trunc('month', day)::date as month, source_id, visits, converting_visits from source_day where {Days} union all select month, source_id, visits, converting_visits from source_month where {Months})"
                    )}
                    group by 1 order by 1
                    """
                : $"""
                    select {point}, sum(v.visits::float8)::bigint, sum(v.converting_visits::float8)::bigint
                    from {Narrowed($"(select * from source_day where {RangeOfDays})")} group by 1 order by 1
                    """;
        }
    }

    /// <summary>Sums by source first, so that groups are looked up once for each source and not for each of its days and months.</summary>
    private string SourceSums =>
        _byDay
            ? Sums(Summed, "source")
            : $"(select source_id, {string.Join(", ", Summed.Split(", ").Select(c => $"sum({c}::float8) as {c}"))} from {Sums(Summed, "source")} s group by source_id)";

    private string Groups => string.Concat(maps.Select((_, i) => $"v.g{i}, "));

    private string GroupBy => maps.Count == 0 ? "" : $"group by {string.Join(", ", maps.Select((_, i) => $"v.g{i}"))}";

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
            command.Parameters.Add(new() { Value = map.Lookup() });
            command.Parameters.Add(new() { Value = map.First });
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
                names[maps[i].Fields[f].Place] = maps[i].Names[groups[i] - 1][f];
            }
        }

        return names;
    }

    /// <summary>The rows with their groups, without those that a condition leaves out. What came since the maps were read has none.</summary>
    private string Grouped(string rows) => maps.Count == 0 ? $"{rows} v" : With(rows, maps.Select((_, i) => i));

    /// <summary>The same where it only matters which rows are left.</summary>
    private string Narrowed(string rows)
    {
        var narrowing = Enumerable.Range(0, maps.Count).Where(i => maps[i].Conditions.Count > 0).ToList();
        return narrowing.Count == 0 ? $"{rows} v" : With(rows, narrowing);
    }

    private string With(string rows, IEnumerable<int> chosen)
    {
        var groups = chosen.ToList();
        string columns = string.Concat(
            groups.Select(i => $", (${FirstMap + (2 * i)}::int[])[{maps[i].Column} - ${FirstMap + (2 * i) + 1}::int + 1] as g{i}")
        );
        string conditions = string.Join(" and ", groups.Where(i => maps[i].Conditions.Count > 0).Select(i => $"v.g{i} > 0"));
        string grouped = $"(select *{columns} from {rows} r) v";
        return conditions.Length == 0 ? grouped : $"(select * from {grouped} where {conditions}) v";
    }

    private string Sums(string columns, string table) =>
        _byDay
            ? $"(select day, source_id, {columns} from {table}_day where {RangeOfDays})"
            : $"(select source_id, {columns} from {table}_day where {Days} union all select source_id, {columns} from {table}_month where {Months})";
}

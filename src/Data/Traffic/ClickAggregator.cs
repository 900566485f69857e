using Npgsql;
using NpgsqlTypes;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>Works out which raw hits are people's clicks, for the stretches that are due, and carries it into the summary.</summary>
public sealed class ClickAggregator(NpgsqlDataSource database)
{
    private static readonly CopyTable<(RawHit Hit, HitKind Kind, DateOnly Day)> ClickChanges = new CopyTable<(
        RawHit Hit,
        HitKind Kind,
        DateOnly Day
    )>("click_change")
        .Column("sign", NpgsqlDbType.Integer, _ => 1)
        .Column("hit_id", NpgsqlDbType.Uuid, r => r.Hit.Id)
        .Column("workspace_id", NpgsqlDbType.Uuid, r => r.Hit.WorkspaceId)
        .Column("at", NpgsqlDbType.TimestampTz, r => r.Hit.At)
        .Column("day", NpgsqlDbType.Date, r => r.Day)
        .Column("short_link_id", NpgsqlDbType.Uuid, r => r.Hit.ShortLinkId)
        .Column("visitor", NpgsqlDbType.Uuid, r => r.Hit.Visitor)
        .Column("kind", NpgsqlDbType.Text, r => r.Kind.ToString())
        .Column("device", NpgsqlDbType.Text, r => Device.Of(r.Hit.UserAgent))
        .Column("referrer_host", NpgsqlDbType.Text, r =>
            r.Hit.Referrer.Length == 0 ? "" : DestinationReader.Read(r.Hit.Referrer).Destination?.HostAndPort ?? ""
        )
        .Column("country", NpgsqlDbType.Text, r => r.Hit.Country)
        .Column("region", NpgsqlDbType.Text, r => r.Hit.Region)
        .Column("city", NpgsqlDbType.Text, r => r.Hit.City);

    /// <summary>Works out one step. It is bounded, whatever one visitor or link has done, and nobody who brings hits or saves links waits for it.</summary>
    /// <returns>How many stretches were due and were worked at; 0 when there was nothing to do, or another process is at it.</returns>
    public async Task<int> WorkOutAsync(CancellationToken cancel)
    {
        int done = await StepAsync(cancel);

        // Also when there was nothing to do: a link somebody was changing the last time may be free now.
        await LinkUses.FoldAsync(database, cancel);
        return done;
    }

    private async Task<int> StepAsync(CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        if (!await WorkLock.TryTakeAsync(connection, WorkLock.Clicks, cancel))
        {
            return 0;
        }

        var hits = new DueHits(connection);
        var stretches = await hits.StretchesAsync(cancel);
        if (stretches.Count == 0)
        {
            return 0;
        }

        var zones = (await VisitRulesReader.ReadAsync(connection, cancel)).ToDictionary(r => r.Key, r => r.Value);
        var (sorted, done, rest) = await hits.SortAsync(stretches, cancel);
        await PrepareAsync(connection, done, rest, cancel);
        await CopyAsync(connection, sorted, zones, cancel);
        await RunAsync(connection, SummariseSql, cancel);
        await RunAsync(connection, VisitsAfterDue, cancel, VisitLinks.HitWithin);
        await RunAsync(connection, TapsAfterMidnightDue, cancel, HitClassifier.DoubleTapWithin);
        await TrafficNotices.TellChangedAsync(connection, sorted.Select(s => s.Item1.WorkspaceId), cancel);
        await transaction.CommitAsync(cancel);
        return done.Count;
    }

    private const string SummariseSql = """
        insert into click_day as s (workspace_id, day, short_link_id, kind, device, clicks)
        select workspace_id, day, short_link_id, kind, device, sum(sign) from click_change group by 1, 2, 3, 4, 5 having sum(sign) <> 0
        on conflict (workspace_id, day, short_link_id, kind, device) do update set clicks = s.clicks + excluded.clicks;

        delete from click_day s using (select distinct workspace_id, day, short_link_id, kind, device from click_change) c
        where s.workspace_id = c.workspace_id and s.day = c.day and s.short_link_id = c.short_link_id
            and s.kind = c.kind and s.device = c.device and s.clicks = 0;

        insert into click_month as s (workspace_id, month, short_link_id, kind, device, clicks)
        select workspace_id, date_trunc('month', day)::date, short_link_id, kind, device, sum(sign) from click_change group by 1, 2, 3, 4, 5 having sum(sign) <> 0
        on conflict (workspace_id, month, short_link_id, kind, device) do update set clicks = s.clicks + excluded.clicks;

        delete from click_month s using (select distinct workspace_id, date_trunc('month', day)::date as month, short_link_id, kind, device from click_change) c
        where s.workspace_id = c.workspace_id and s.month = c.month and s.short_link_id = c.short_link_id
            and s.kind = c.kind and s.device = c.device and s.clicks = 0;

        insert into link_use_due (link_id, uses, last_used_at)
        select s.link_id, sum(c.sign), max(c.at) filter (where c.sign = 1)
        from click_change c join short_links s on s.id = c.short_link_id where c.kind = 'Person' group by 1
        having sum(c.sign) <> 0 or max(c.at) filter (where c.sign = 1) is not null;

        insert into click select hit_id, workspace_id, at, day, short_link_id, visitor, kind, device, referrer_host, country, region, city
        from click_change where sign = 1;
        """;

    /// <summary>
    /// A hit that comes later than the visit it led to changes that visit. This is said here and not when the hits are written: whoever
    /// writes a visit's events at the same time may not see the hits, and the other way round. Now they are committed, so that a visit
    /// is either here already, and marked, or worked out after its events are, and then it sees them.
    /// </summary>
    private const string VisitsAfterDue = """
        insert into visit_due (workspace_id, visitor, day)
        select distinct e.workspace_id, e.visitor, (e.at at time zone w.time_zone)::date
        from click_due d
        join page_event e on e.workspace_id = d.workspace_id and coalesce(e.day_visitor, e.visitor) = d.visitor
            and e.at between d.from_at and d.until_at + $1
        join workspaces w on w.id = e.workspace_id
        """;

    /// <summary>
    /// A tap that comes in late, from before midnight, may make a double tap of one after it, which has the next day's hash. That one is
    /// worked out by now, or sees this one when it is.
    /// </summary>
    private const string TapsAfterMidnightDue = """
        insert into hit_due (workspace_id, visitor, short_link_id, from_at, to_at, hits)
        select n.workspace_id, n.visitor, n.short_link_id, min(n.at), max(n.at), count(*)
        from click_due d
        join workspaces w on w.id = d.workspace_id and (d.from_at at time zone w.time_zone)::date <> (d.until_at at time zone w.time_zone)::date
        join click c on c.short_link_id = d.short_link_id and c.at between d.until_at - 2 * $1 and d.until_at
        join hit n on n.workspace_id = d.workspace_id and n.visitor = c.visitor and n.short_link_id = d.short_link_id and n.at = c.at
            and n.earlier_visitor = d.visitor
        group by 1, 2, 3
        """;

    /// <summary>Takes the marks of what is done away, marks what was cut off, and takes the clicks of the stretches out.</summary>
    private static async Task PrepareAsync(
        NpgsqlConnection connection,
        List<DueStretch> done,
        List<DueStretch> rest,
        CancellationToken cancel
    )
    {
        await RunAsync(
            connection,
            """
            create temp table if not exists click_due (workspace_id uuid, visitor uuid, short_link_id uuid, from_at timestamptz, until_at timestamptz) on commit delete rows;
            create temp table if not exists click_change (sign int, like click) on commit delete rows
            """,
            cancel
        );
        await RunAsync(connection, "delete from hit_due where id = any($1)", cancel, done.SelectMany(d => d.Marks).ToArray());
        await RunAsync(connection, "insert into click_due select * from unnest($1, $2, $3, $4, $5)", cancel, Columns(done, d => d.Until));
        await RunAsync(connection, "analyze click_due", cancel);
        if (rest.Count > 0)
        {
            await RunAsync(
                connection,
                "insert into hit_due (workspace_id, visitor, short_link_id, from_at, to_at, hits) select * from unnest($1, $2, $3, $4, $5, $6)",
                cancel,
                [
                    .. Columns(rest, r => r.Until - HitClassifier.DoubleTapWithin is var to && to > r.From ? to : r.From),
                    rest.Select(r => r.Hits).ToArray(),
                ]
            );
        }

        await RunAsync(
            connection,
            """
            with gone as (
                delete from click c using click_due d
                where c.workspace_id = d.workspace_id and c.visitor = d.visitor and c.short_link_id = d.short_link_id
                    and c.at >= d.from_at and c.at < d.until_at
                returning c.*)
            insert into click_change select -1, * from gone
            """,
            cancel
        );
    }

    private static object[] Columns(List<DueStretch> stretches, Func<DueStretch, DateTimeOffset> end) =>
        [
            stretches.Select(s => s.WorkspaceId).ToArray(),
            stretches.Select(s => s.Visitor).ToArray(),
            stretches.Select(s => s.ShortLinkId).ToArray(),
            stretches.Select(s => s.From).ToArray(),
            stretches.Select(end).ToArray(),
        ];

    private static async Task CopyAsync(
        NpgsqlConnection connection,
        List<(RawHit Hit, HitKind Kind)> sorted,
        Dictionary<Guid, VisitRules> rules,
        CancellationToken cancel
    )
    {
        await ClickChanges.WriteAsync(connection, sorted.Select(s => (s.Hit, s.Kind, rules[s.Hit.WorkspaceId].DayOf(s.Hit.At))), cancel);
    }

    private static async Task RunAsync(NpgsqlConnection connection, string sql, CancellationToken cancel, params object[] values)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        foreach (object value in values)
        {
            command.Parameters.Add(new() { Value = value });
        }

        await command.ExecuteNonQueryAsync(cancel);
    }
}

using Npgsql;
using NpgsqlTypes;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>Works out which raw hits are people's clicks, for the stretches that are due, and carries it into the summary.</summary>
public sealed class ClickWorkOut(NpgsqlDataSource database)
{
    private const int LargestBatch = 5_000;

    /// <summary>Works out one batch.</summary>
    /// <returns>How many stretches were due and are done.</returns>
    public async Task<int> WorkOutAsync(CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        if (!await WorkLock.TryTakeAsync(connection, WorkLock.Clicks, cancel))
        {
            return 0;
        }

        int due = await TakeDueAsync(connection, cancel);
        if (due == 0)
        {
            return 0;
        }

        var zones = (await VisitRulesReader.ReadAsync(connection, cancel)).ToDictionary(r => r.Key, r => r.Value);
        var sorted = await SortAsync(connection, cancel);
        await RunAsync(connection,
            """
            with gone as (
                delete from click c using click_due d
                where c.workspace_id = d.workspace_id and c.visitor = d.visitor and c.short_link_id = d.short_link_id
                    and c.at >= d.from_at and c.at <= d.to_at + interval '2 seconds'
                returning c.*)
            insert into click_change select -1, * from gone
            """,
            cancel);
        await CopyAsync(connection, sorted, zones, cancel);
        await RunAsync(connection, SummariseSql, cancel);
        await transaction.CommitAsync(cancel);
        return due;
    }

    private const string SummariseSql =
        """
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

        update links l set uses = l.uses + c.uses, last_used_at = greatest(l.last_used_at, c.last)
        from (
            select s.link_id, sum(c.sign) as uses, max(c.at) filter (where c.sign = 1) as last
            from click_change c join short_links s on s.id = c.short_link_id where c.kind = 'Person' group by 1
            having sum(c.sign) <> 0 or max(c.at) filter (where c.sign = 1) is not null
        ) c where l.id = c.link_id;

        insert into click select hit_id, workspace_id, at, day, short_link_id, visitor, kind, device, referrer_host, country, region, city
        from click_change where sign = 1;
        """;

    private static async Task<int> TakeDueAsync(NpgsqlConnection connection, CancellationToken cancel)
    {
        await RunAsync(connection,
            """
            create temp table if not exists click_due (like hit_due) on commit delete rows;
            create temp table if not exists click_change (sign int, like click) on commit delete rows
            """,
            cancel);
        await using var command = new NpgsqlCommand(
            """
            with taken as (
                delete from hit_due where (workspace_id, visitor, short_link_id) in (
                    select workspace_id, visitor, short_link_id from hit_due limit $1 for update skip locked)
                returning *)
            insert into click_due select * from taken
            """,
            connection);
        command.Parameters.Add(new() { Value = LargestBatch });
        int taken = await command.ExecuteNonQueryAsync(cancel);
        await RunAsync(connection, "analyze click_due", cancel);
        return taken;
    }

    /// <summary>Reads each stretch with two seconds more on both sides and keeps what lies in it or right after it.</summary>
    private static async Task<List<(RawHit Hit, HitKind Kind)>> SortAsync(NpgsqlConnection connection, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            """
            select h.id, h.workspace_id, h.at, h.short_link_id, h.visitor, h.flags, h.user_agent, h.referrer, h.country, h.region, h.city,
                h.at >= d.from_at and h.at <= d.to_at + interval '2 seconds'
            from click_due d
            cross join lateral (
                select * from hit r
                where r.workspace_id = d.workspace_id and r.visitor = d.visitor and r.short_link_id = d.short_link_id
                    and r.at >= d.from_at - interval '2 seconds' and r.at <= d.to_at + interval '2 seconds'
            ) h
            order by h.visitor, h.short_link_id, h.at, h.id
            """,
            connection);
        var hits = new List<RawHit>();
        var inside = new HashSet<Guid>();
        await using (var reader = await command.ExecuteReaderAsync(cancel))
        {
            while (await reader.ReadAsync(cancel))
            {
                var hit = new RawHit(
                    reader.GetGuid(0), reader.GetGuid(1), reader.GetFieldValue<DateTimeOffset>(2), reader.GetGuid(3), reader.GetGuid(4), null,
                    (HitFlags)reader.GetInt16(5), reader.GetString(6), reader.GetString(7), reader.GetString(8), reader.GetString(9), reader.GetString(10));
                hits.Add(hit);
                if (reader.GetBoolean(11))
                {
                    inside.Add(hit.Id);
                }
            }
        }

        return [.. hits.GroupBy(h => (h.WorkspaceId, h.Visitor, h.ShortLinkId)).SelectMany(HitSorter.Sort).Where(s => inside.Contains(s.Hit.Id))];
    }

    private static async Task CopyAsync(
        NpgsqlConnection connection, List<(RawHit Hit, HitKind Kind)> sorted, Dictionary<Guid, VisitRules> rules, CancellationToken cancel)
    {
        await using var copy = await connection.BeginBinaryImportAsync(
            "copy click_change (sign, hit_id, workspace_id, at, day, short_link_id, visitor, kind, device, referrer_host, country, region, city) from stdin (format binary)", cancel);
        foreach (var (hit, kind) in sorted)
        {
            await copy.StartRowAsync(cancel);
            await copy.WriteAsync(1, NpgsqlDbType.Integer, cancel);
            await copy.WriteAsync(hit.Id, NpgsqlDbType.Uuid, cancel);
            await copy.WriteAsync(hit.WorkspaceId, NpgsqlDbType.Uuid, cancel);
            await copy.WriteAsync(hit.At, NpgsqlDbType.TimestampTz, cancel);
            await copy.WriteAsync(rules[hit.WorkspaceId].DayOf(hit.At), NpgsqlDbType.Date, cancel);
            await copy.WriteAsync(hit.ShortLinkId, NpgsqlDbType.Uuid, cancel);
            await copy.WriteAsync(hit.Visitor, NpgsqlDbType.Uuid, cancel);
            await copy.WriteAsync(kind.ToString(), NpgsqlDbType.Text, cancel);
            await copy.WriteAsync(Device.Of(hit.UserAgent), NpgsqlDbType.Text, cancel);
            await copy.WriteAsync(
                hit.Referrer.Length == 0 ? "" : DestinationReader.Read(hit.Referrer).Destination?.HostAndPort ?? "", NpgsqlDbType.Text, cancel);
            await copy.WriteAsync(hit.Country, NpgsqlDbType.Text, cancel);
            await copy.WriteAsync(hit.Region, NpgsqlDbType.Text, cancel);
            await copy.WriteAsync(hit.City, NpgsqlDbType.Text, cancel);
        }

        await copy.CompleteAsync(cancel);
    }

    private static async Task RunAsync(NpgsqlConnection connection, string sql, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        await command.ExecuteNonQueryAsync(cancel);
    }
}

using Npgsql;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>Counts what came of one link's short links in a stretch of time.</summary>
public sealed class LinkCountsReader(NpgsqlDataSource database)
{
    private const int MostListed = 12;
    private const int HoursADay = 24;

    /// <summary>Counts of a link from a moment until just before another.</summary>
    /// <param name="link">The link.</param>
    /// <param name="from">The first moment.</param>
    /// <param name="until">The moment after the last.</param>
    /// <param name="zone">IANA name of the workspace's zone; hours and days are its.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<LinkCounts> ReadAsync(Guid link, DateTimeOffset from, DateTimeOffset until, string zone, CancellationToken cancel)
    {
        string unit = (until - from).TotalDays switch
        {
            <= 2 => "hour",
            <= 120 => "day",
            _ => "month",
        };
        const string Mine = "short_link_id = any($1) and at >= $2 and at < $3";
        const string People = $"{Mine} and kind = '{nameof(HitKind.Person)}'";
        await using var connection = await database.OpenConnectionAsync(cancel);
        var (all, code) = await ShortLinksAsync(connection, link, cancel);

        var totals = await RowsAsync(
            $"select count(*) filter (where short_link_id <> $4), count(*) filter (where short_link_id = $4), count(distinct visitor) from click where {People}",
            r => (r.GetInt64(0), r.GetInt64(1), r.GetInt64(2)),
            code
        );
        var due = await RowsAsync(
            $"select count(*) from (select at - lag(at) over (partition by visitor order by at, hit_id) as pause from click where {People}) c where pause is null or pause > $4",
            r => r.GetInt64(0),
            VisitRules.Gap
        );
        var others = await RowsAsync(
            $"select kind, count(*) from click where {Mine} and kind <> '{nameof(HitKind.Person)}' group by 1",
            r => (r.GetString(0), r.GetInt64(1))
        );
        var series = await RowsAsync(
            $"""
            select b.step, coalesce(c.clicks, 0), coalesce(c.scans, 0)
            from generate_series(date_trunc('{unit}', $2 at time zone $5), ($3 at time zone $5) - interval '1 microsecond', interval '1 {unit}') b(step)
            left join (
                select date_trunc('{unit}', at at time zone $5) as step, count(*) filter (where short_link_id <> $4) as clicks, count(*) filter (where short_link_id = $4) as scans
                from click where {People} group by 1
            ) c using (step) order by 1
            """,
            r => new CountStep(r.GetDateTime(0), r.GetInt64(1), r.GetInt64(2)),
            code,
            zone
        );
        var week = new long[7 * HoursADay];
        foreach (
            var (slot, hits) in await RowsAsync(
                $"select (extract(isodow from local)::int - 1) * 24 + extract(hour from local)::int, count(*) from (select at at time zone $4 as local from click where {People}) c group by 1",
                r => (r.GetInt32(0), r.GetInt64(1)),
                zone
            )
        )
        {
            week[slot] = hits;
        }

        await using var arrived = new NpgsqlCommand(
            "select count(*) from visit where link_id = $1 and started_at >= $2 and started_at < $3",
            connection
        )
        {
            Parameters =
            {
                new() { Value = link },
                new() { Value = from.ToUniversalTime() },
                new() { Value = until.ToUniversalTime() },
            },
        };
        long visits = (long)(await arrived.ExecuteScalarAsync(cancel))!;
        return new LinkCounts(
            totals[0].Item1,
            totals[0].Item2,
            totals[0].Item3,
            others.ToDictionary(o => o.Item1, o => o.Item2),
            visits,
            due[0],
            unit,
            series,
            await ByAsync("country"),
            await PlacesAsync(),
            await ByAsync("device"),
            await ByAsync("referrer_host"),
            week
        );

        Task<List<CountOf>> ByAsync(string column) =>
            RowsAsync(
                $"select {column}, count(*) from click where {People} group by 1 order by 2 desc, 1 limit {MostListed}",
                r => new CountOf(r.GetString(0), r.GetInt64(1))
            );

        // A town is told apart from its namesakes by region and country; without a better file there are none.
        Task<List<CountOf>> PlacesAsync() =>
            RowsAsync(
                $"select concat_ws(', ', nullif(city, ''), nullif(region, ''), nullif(country, '')), count(*) from click where {People} and city || region <> '' group by 1 order by 2 desc, 1 limit {MostListed}",
                r => new CountOf(r.GetString(0), r.GetInt64(1))
            );

        async Task<List<T>> RowsAsync<T>(string sql, Func<NpgsqlDataReader, T> read, params object[] more)
        {
            await using var command = new NpgsqlCommand(sql, connection)
            {
                Parameters =
                {
                    new() { Value = all },
                    new() { Value = from.ToUniversalTime() },
                    new() { Value = until.ToUniversalTime() },
                },
            };
            foreach (object value in more)
            {
                command.Parameters.Add(new() { Value = value });
            }

            var rows = new List<T>();
            await using var reader = await command.ExecuteReaderAsync(cancel);
            while (await reader.ReadAsync(cancel))
            {
                rows.Add(read(reader));
            }

            return rows;
        }
    }

    /// <summary>Hosts that hits on the short link of a link's code came from, and previews under an empty host, with how many and since when.</summary>
    public async Task<List<(string Host, long Hits, DateTimeOffset Since)>> OutsidePaperAsync(Guid link, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            """
            select case when c.kind = $2 then c.referrer_host else '' end, count(*), min(c.at)
            from click c join short_links s on s.id = c.short_link_id
            where s.link_id = $1 and s.use = 'Code' and ((c.kind = $2 and c.referrer_host <> '') or c.kind = $3)
            group by 1
            """
        );
        command.Parameters.Add(new() { Value = link });
        command.Parameters.Add(new() { Value = nameof(HitKind.Person) });
        command.Parameters.Add(new() { Value = nameof(HitKind.Preview) });
        var seen = new List<(string, long, DateTimeOffset)>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            seen.Add((reader.GetString(0), reader.GetInt64(1), reader.GetFieldValue<DateTimeOffset>(2)));
        }

        return seen;
    }

    private static async Task<(Guid[] All, Guid Code)> ShortLinksAsync(NpgsqlConnection connection, Guid link, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand("select id, use from short_links where link_id = $1", connection)
        {
            Parameters = { new() { Value = link } },
        };
        var all = new List<Guid>();
        var code = Guid.Empty;
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            all.Add(reader.GetGuid(0));
            code = reader.GetString(1) == "Code" ? all[^1] : code;
        }

        return ([.. all], code);
    }
}

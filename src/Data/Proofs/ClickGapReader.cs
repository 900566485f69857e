using Npgsql;
using PreciseBeacon.Core.Proofs;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Proofs;

/// <summary>Counts people's clicks on links, gathered into visits, beside the visits measured after them.</summary>
public sealed class ClickGapReader(NpgsqlDataSource database)
{
    /// <summary>What was counted by link, for every link that was clicked in the range.</summary>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="from">First day, in the workspace's zone.</param>
    /// <param name="to">Last day.</param>
    /// <param name="now">The moment from which ages are counted.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<IReadOnlyDictionary<Guid, GapEvidence>> ReadAsync(
        Guid workspaceId,
        DateOnly from,
        DateOnly to,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        await using var command = database.CreateCommand(
            """
            with clicked as (
                select s.link_id, s.use = 'Code' as printed, c.visitor, c.hit_id, c.at, c.referrer_host, s.target,
                    lag(c.at) over (partition by s.link_id, c.visitor order by c.at, c.hit_id) as before
                from click c join short_links s on s.id = c.short_link_id
                where c.workspace_id = $1 and c.kind = 'Person' and c.day between $2 and $3
                    and c.at between $2::timestamp - interval '1 day' and $3::timestamp + interval '2 days'
            ), numbered as (
                select *, count(*) filter (where before is null or at - before > $5) over (partition by link_id, visitor order by at, hit_id) as nth
                from clicked
            ), seen as (
                select hit_id from visit
                where workspace_id = $1 and hit_id is not null and day between $2 - 1 and $3 + 1
                    and started_at between $2::timestamp - interval '2 days' and $3::timestamp + interval '3 days'
            ), gathered as (
                select n.link_id, n.visitor, n.nth, min(n.at) as at, bool_or(v.hit_id is not null) as measured,
                    bool_or(n.printed and n.referrer_host <> '') as reused, (array_agg(h.user_agent order by n.at, n.hit_id))[1] as agent, min(n.target) as target
                from numbered n left join seen v on v.hit_id = n.hit_id
                join hit h on h.id = n.hit_id and h.at between $2::timestamp - interval '1 day' and $3::timestamp + interval '2 days'
                group by 1, 2, 3
            ), program as (
                select agent from gathered group by agent having count(*) >= $7 and count(*) filter (where measured) = 0
            ), judged as (
                select g.link_id, g.reused,
                    case
                        -- Whoever was in a visit with the same tags already went on with it, and is missing nowhere.
                        when g.measured or e.there then 'measured'
                        when g.at > $4 - $6 then 'new'
                        when g.agent in (select agent from program) then 'program'
                        when e.there is not null then 'elsewhere'
                        else 'silent'
                    end as fate
                from gathered g left join lateral (
                    select bool_or(e.url = g.target) as there from page_event e
                    where not g.measured and e.workspace_id = $1 and coalesce(e.day_visitor, e.visitor) = g.visitor
                        and e.at between g.at and g.at + $8
                ) e on true
            )
            select link_id, count(*), count(*) filter (where fate = 'measured'), count(*) filter (where fate = 'new'),
                count(*) filter (where fate = 'program'), count(*) filter (where fate = 'elsewhere'), count(*) filter (where fate = 'silent'),
                count(*) filter (where reused and fate <> 'measured')
            from judged group by 1
            """
        );
        object[] values =
        [
            workspaceId,
            from,
            to,
            now.ToUniversalTime(),
            VisitRules.Gap,
            ClickGap.New,
            (long)ClickGap.ProgramClicks,
            VisitLinks.HitWithin,
        ];
        foreach (object value in values)
        {
            command.Parameters.Add(new() { Value = value });
        }

        var found = new Dictionary<Guid, GapEvidence>();
        await using (var reader = await command.ExecuteReaderAsync(cancel))
        {
            while (await reader.ReadAsync(cancel))
            {
                found[reader.GetGuid(0)] = new GapEvidence(
                    reader.GetInt64(1),
                    reader.GetInt64(2),
                    reader.GetInt64(3),
                    reader.GetInt64(4),
                    reader.GetInt64(5),
                    reader.GetInt64(6),
                    reader.GetInt64(7)
                );
            }
        }

        return await WithPagesAsync(found, workspaceId, from, to, cancel);
    }

    /// <summary>Adds what is known of the links' pages, and the visits that came without their short links.</summary>
    private async Task<Dictionary<Guid, GapEvidence>> WithPagesAsync(
        Dictionary<Guid, GapEvidence> found,
        Guid workspaceId,
        DateOnly from,
        DateOnly to,
        CancellationToken cancel
    )
    {
        await using var command = database.CreateCommand(
            """
            with v as (
                select link_id, hit_id, landing_page_id from visit
                where workspace_id = $1 and day between $2 and $3
                    and started_at between $2::timestamp - interval '1 day' and $3::timestamp + interval '2 days'
            ), measured as (
                select distinct p.address from (select distinct landing_page_id from v) l join visited_page p on p.id = l.landing_page_id
            )
            select l.id, coalesce(w.visits, 0), m.address is not null
            from links l left join measured m on m.address = l.page
            left join (select link_id, count(*) as visits from v where hit_id is null and link_id is not null group by 1) w on w.link_id = l.id
            where l.id = any($4)
            """
        );
        foreach (object value in new object[] { workspaceId, from, to, found.Keys.ToArray() })
        {
            command.Parameters.Add(new() { Value = value });
        }

        var whole = new Dictionary<Guid, GapEvidence>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            whole[reader.GetGuid(0)] = found[reader.GetGuid(0)] with
            {
                WithoutClick = reader.GetInt64(1),
                PageMeasured = reader.GetBoolean(2),
            };
        }

        return whole;
    }
}

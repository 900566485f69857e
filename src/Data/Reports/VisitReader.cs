using Npgsql;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Reports;

/// <summary>Reads single visits, the newest first.</summary>
public sealed class VisitReader(NpgsqlDataSource database, TrafficSourceCache sources, PlanOfVisitsReader plans)
{
    /// <summary>A visit's id is that of its first event and so tells about when that came; how far the two may lie apart.</summary>
    private static readonly TimeSpan IdsWithin = TimeSpan.FromMinutes(1);

    private const string Columns = """
        v.id, v.started_at, v.ended_at, v.source_id, f.address, l.address, p.country, p.region, p.city, d.kind, d.language,
        v.page_views, v.events, v.conversions, v.bounced, v.has_id, v.hit_id, v.tags,
        v.referrer_host, d.model, d.system, d.browser
        """;

    private const string Tables = """
        join visited_page f on f.id = v.landing_page_id join visited_page l on l.id = v.last_page_id
        join visit_place p on p.id = v.place_id join visit_device d on d.id = v.device_id
        """;

    /// <summary>Visits that fulfil the request's conditions; its rows are not looked at.</summary>
    /// <param name="request">The range and conditions.</param>
    /// <param name="convention">The convention to read by.</param>
    /// <param name="after">Only visits that come after this one in the order of the list; null from the beginning.</param>
    /// <param name="most">At most so many.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<IReadOnlyList<VisitRow>> ListAsync(
        ArrivalsRequest request,
        Convention convention,
        (DateTimeOffset StartedAt, Guid Id)? after,
        int most,
        CancellationToken cancel
    )
    {
        var plan = await plans.ReadAsync(request.WorkspaceId, cancel);
        var maps = await new RowMapReader(database, sources).ReadAsync(request with { Rows = [] }, convention, plan, cancel);
        await using var command = database.CreateCommand(
            $"""
            select {Columns}
            from (
                select * from visit v
                where v.workspace_id = $1 and v.day between $2 and $3 and (v.started_at, v.id) < ($4, $5)
                    and v.started_at between $2::timestamp - interval '1 day' and $3::timestamp + interval '2 days'{VisitConditions.SqlOf(
                maps,
                7
            )}
                order by v.started_at desc, v.id desc limit $6
            ) v {Tables}
            order by v.started_at desc, v.id desc
            """
        );
        var last = after ?? (DateTimeOffset.MaxValue.AddDays(-1), Guid.Empty);
        object[] values = [request.WorkspaceId, request.From, request.To, last.StartedAt, last.Id, most, .. VisitConditions.ValuesOf(maps)];
        foreach (object value in values)
        {
            command.Parameters.Add(new() { Value = value });
        }

        var read = await sources.ReadAsync(request.WorkspaceId, convention, plan, cancel);
        return await RowsAsync(command, read, cancel);
    }

    /// <summary>One visit and what happened during it, in order; null where there is none.</summary>
    public async Task<(VisitRow Visit, IReadOnlyList<VisitStep> Steps)?> FindAsync(
        Guid workspaceId,
        Guid id,
        Convention convention,
        CancellationToken cancel
    )
    {
        var plan = await plans.ReadAsync(workspaceId, cancel);
        var read = await sources.ReadAsync(workspaceId, convention, plan, cancel);
        var about = EventIds.TimeOf(id);
        foreach (string window in about is null ? [""] : new[] { " and v.started_at between $3 - $4 and $3 + $4", "" })
        {
            await using var command = database.CreateCommand(
                $"select {Columns} from visit v {Tables} where v.workspace_id = $1 and v.id = $2{window}"
            );
            command.Parameters.Add(new() { Value = workspaceId });
            command.Parameters.Add(new() { Value = id });
            if (window.Length > 0)
            {
                command.Parameters.Add(new() { Value = about!.Value });
                command.Parameters.Add(new() { Value = IdsWithin });
            }

            if (await RowsAsync(command, read, cancel) is [var visit])
            {
                return (visit, await StepsAsync(workspaceId, visit, cancel));
            }
        }

        return null;
    }

    private async Task<IReadOnlyList<VisitStep>> StepsAsync(Guid workspaceId, VisitRow visit, CancellationToken cancel)
    {
        // Events are not kept with the visit; they are those of its visitor while it lasted, on its site.
        await using var command = database.CreateCommand(
            """
            select pv.at, 0 as kind, p.address, null as order_id, null::numeric as value, null as currency, pv.place
            from page_view pv join visited_page p on p.id = pv.page_id
            where pv.visit_id = $2 and pv.at between $3 and $4
            union all
            select e.at, e.kind, e.name, e.order_id, e.value, e.currency, 0
            from visit v join traffic_source s on s.id = v.source_id
            join page_event e on e.workspace_id = v.workspace_id and e.visitor = v.visitor and e.site_id = s.site_id and e.at between $3 and $4
            where v.workspace_id = $1 and v.id = $2 and v.started_at = $3 and e.kind = any($5)
            union all
            select coalesce(c.happened_at, c.at), $6, c.kind, c.order_id, c.value, c.currency, 0
            from conversion c where c.workspace_id = $1 and c.visit_id = $2 and c.at between $3 and $4 + $7
            order by 1, 7
            """
        );
        object[] values =
        [
            workspaceId,
            visit.Id,
            visit.StartedAt,
            visit.EndedAt,
            new[] { (short)PageEventKind.Event, (short)PageEventKind.SpotSeen, (short)PageEventKind.SpotClicked },
            (short)PageEventKind.Conversion,
            VisitRules.Gap, // a server's conversion lengthens no visit
        ];
        foreach (object value in values)
        {
            command.Parameters.Add(new() { Value = value });
        }

        var steps = new List<VisitStep>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            steps.Add(
                new VisitStep(
                    reader.GetFieldValue<DateTimeOffset>(0),
                    (PageEventKind)reader.GetInt32(1) switch
                    {
                        PageEventKind.View => "page",
                        PageEventKind.Event => "event",
                        PageEventKind.SpotSeen => "seen",
                        PageEventKind.SpotClicked => "clicked",
                        _ => "conversion",
                    },
                    reader.GetString(2),
                    reader.IsDBNull(3) ? null : reader.GetString(3),
                    reader.IsDBNull(4) ? null : reader.GetDecimal(4),
                    reader.IsDBNull(5) ? null : reader.GetString(5)
                )
            );
        }

        return steps;
    }

    private static async Task<List<VisitRow>> RowsAsync(NpgsqlCommand command, IReadOnlyList<ReadSource> sources, CancellationToken cancel)
    {
        var rows = new List<VisitRow>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            // A visit worked out after the sources were read waits for the next time.
            if (Find(sources, reader.GetInt32(3)) is not { } source)
            {
                continue;
            }

            rows.Add(
                new VisitRow(
                    reader.GetGuid(0),
                    reader.GetFieldValue<DateTimeOffset>(1),
                    reader.GetFieldValue<DateTimeOffset>(2),
                    reader.IsDBNull(17) ? source : source.Bringing(RawTags.Parse(reader.GetString(17)), reader.GetString(18)),
                    reader.GetString(4),
                    reader.GetString(5),
                    reader.GetString(6),
                    reader.GetString(7),
                    reader.GetString(8),
                    reader.GetString(9),
                    reader.GetString(19),
                    reader.GetString(20),
                    reader.GetString(21),
                    reader.GetString(10),
                    reader.GetInt32(11),
                    reader.GetInt32(12),
                    reader.GetInt32(13),
                    reader.GetBoolean(14),
                    reader.GetBoolean(15),
                    reader.IsDBNull(16) ? null : reader.GetGuid(16)
                )
            );
        }

        return rows;
    }

    private static ReadSource? Find(IReadOnlyList<ReadSource> sources, int id)
    {
        int low = 0;
        int high = sources.Count - 1;
        while (low <= high)
        {
            int middle = (low + high) / 2;
            int at = sources[middle].Source.Id;
            if (at == id)
            {
                return sources[middle];
            }

            (low, high) = at < id ? (middle + 1, high) : (low, middle - 1);
        }

        return null;
    }
}

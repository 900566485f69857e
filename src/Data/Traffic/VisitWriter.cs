using Npgsql;
using NpgsqlTypes;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// Puts newly worked out visits in place of the old ones and carries the difference into the summaries.
/// </summary>
internal sealed class VisitWriter(NpgsqlConnection connection)
{
    /// <summary>Replaces all visits and conversions of the given visitor days.</summary>
    public async Task ReplaceAsync(IReadOnlyList<VisitorDay> days, IReadOnlyList<Visit> visits, CancellationToken cancel)
    {
        await RunAsync(
            """
            create temp table if not exists visitor_day_due (workspace_id uuid, visitor uuid, day date) on commit delete rows;
            create temp table if not exists visit_change (sign int, like visit) on commit delete rows;
            create temp table if not exists conversion_change (sign int, like conversion) on commit delete rows
            """,
            cancel);
        await RunAsync(
            "insert into visitor_day_due select distinct * from unnest($1, $2, $3)",
            cancel,
            days.Select(d => d.WorkspaceId).ToArray(),
            days.Select(d => d.Visitor).ToArray(),
            days.Select(d => d.Day).ToArray());
        await RunAsync("analyze visitor_day_due", cancel);
        await RunAsync(
            """
            with gone as (
                delete from visit v using visitor_day_due d
                where v.workspace_id = d.workspace_id and v.visitor = d.visitor and v.day = d.day
                returning v.*)
            insert into visit_change select -1, * from gone
            """,
            cancel);
        await RunAsync(
            """
            with gone as (
                delete from conversion c using visitor_day_due d
                where c.workspace_id = d.workspace_id and c.visitor = d.visitor and c.day = d.day
                returning c.*)
            insert into conversion_change select -1, * from gone
            """,
            cancel);
        await RunAsync(
            "delete from visitor_day v using visitor_day_due d where v.workspace_id = d.workspace_id and v.visitor = d.visitor and v.day = d.day",
            cancel);

        var combinations = visits.Select(Combination.Of).Distinct().ToDictionary(c => c, c => c.Id());
        await AddCombinationsAsync(combinations, cancel);
        await CopyVisitsAsync(visits, combinations, cancel);
        await CopyConversionsAsync(visits, combinations, cancel);
        await RunAsync(SummariseSql, cancel);
    }

    private const string SummariseSql =
        """
        insert into visit_day as s (workspace_id, day, combination_id, visits, page_views, events, seconds, bounces, converting_visits, with_id)
        select workspace_id, day, combination_id, sum(sign), sum(sign * page_views), sum(sign * events), sum(sign * seconds::bigint),
            sum(case when bounced then sign else 0 end), sum(case when conversions > 0 then sign else 0 end),
            sum(case when has_id then sign else 0 end)
        from visit_change group by 1, 2, 3
        on conflict (workspace_id, day, combination_id) do update set
            visits = s.visits + excluded.visits,
            page_views = s.page_views + excluded.page_views,
            events = s.events + excluded.events,
            seconds = s.seconds + excluded.seconds,
            bounces = s.bounces + excluded.bounces,
            converting_visits = s.converting_visits + excluded.converting_visits,
            with_id = s.with_id + excluded.with_id;

        delete from visit_day s using (select distinct workspace_id, day, combination_id from visit_change) c
        where s.workspace_id = c.workspace_id and s.day = c.day and s.combination_id = c.combination_id and s.visits = 0;

        insert into visitor_day (workspace_id, day, combination_id, visitor)
        select distinct workspace_id, day, combination_id, visitor from visit_change where sign = 1
        on conflict do nothing;

        insert into conversion_day as s (workspace_id, day, combination_id, kind, currency, conversions, revenue)
        select workspace_id, day, combination_id, kind, coalesce(currency, ''), sum(sign), sum(sign * coalesce(value, 0))
        from conversion_change group by 1, 2, 3, 4, 5
        on conflict (workspace_id, day, combination_id, kind, currency) do update set
            conversions = s.conversions + excluded.conversions,
            revenue = s.revenue + excluded.revenue;

        delete from conversion_day s using (select distinct workspace_id, day, combination_id from conversion_change) c
        where s.workspace_id = c.workspace_id and s.day = c.day and s.combination_id = c.combination_id and s.conversions = 0;

        insert into visit select id, workspace_id, site_id, visitor, day, started_at, ended_at, combination_id, has_id,
            page_views, events, seconds, bounced, conversions, tagged_inside
        from visit_change where sign = 1;

        insert into conversion select id, workspace_id, site_id, visit_id, visitor, at, day, kind, order_id, value, currency, items, combination_id
        from conversion_change where sign = 1;
        """;

    private Task AddCombinationsAsync(Dictionary<Combination, Guid> combinations, CancellationToken cancel)
    {
        var rows = combinations.OrderBy(c => c.Value).ToList();
        return RunAsync(
            """
            insert into combination (id, workspace_id, source, medium, campaign, term, content, tag_id, referrer_host, landing_page, device)
            select * from unnest($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)
            on conflict do nothing
            """,
            cancel,
            rows.Select(r => r.Value).ToArray(),
            rows.Select(r => r.Key.WorkspaceId).ToArray(),
            rows.Select(r => r.Key.Tags.Source).ToArray(),
            rows.Select(r => r.Key.Tags.Medium).ToArray(),
            rows.Select(r => r.Key.Tags.Campaign).ToArray(),
            rows.Select(r => r.Key.Tags.Term).ToArray(),
            rows.Select(r => r.Key.Tags.Content).ToArray(),
            rows.Select(r => r.Key.Tags.TagId).ToArray(),
            rows.Select(r => r.Key.ReferrerHost).ToArray(),
            rows.Select(r => r.Key.LandingPage).ToArray(),
            rows.Select(r => r.Key.Device).ToArray());
    }

    private async Task CopyVisitsAsync(IReadOnlyList<Visit> visits, Dictionary<Combination, Guid> combinations, CancellationToken cancel)
    {
        await using var copy = await connection.BeginBinaryImportAsync(
            "copy visit_change (sign, id, workspace_id, site_id, visitor, day, started_at, ended_at, combination_id, has_id, page_views, events, seconds, bounced, conversions, tagged_inside) from stdin (format binary)", cancel);
        foreach (var visit in visits)
        {
            await copy.StartRowAsync(cancel);
            await copy.WriteAsync(1, NpgsqlDbType.Integer, cancel);
            await copy.WriteAsync(visit.Id, NpgsqlDbType.Uuid, cancel);
            await copy.WriteAsync(visit.WorkspaceId, NpgsqlDbType.Uuid, cancel);
            await copy.WriteAsync(visit.SiteId, NpgsqlDbType.Uuid, cancel);
            await copy.WriteAsync(visit.Visitor, NpgsqlDbType.Uuid, cancel);
            await copy.WriteAsync(visit.Day, NpgsqlDbType.Date, cancel);
            await copy.WriteAsync(visit.StartedAt, NpgsqlDbType.TimestampTz, cancel);
            await copy.WriteAsync(visit.EndedAt, NpgsqlDbType.TimestampTz, cancel);
            await copy.WriteAsync(combinations[Combination.Of(visit)], NpgsqlDbType.Uuid, cancel);
            await copy.WriteAsync(visit.HasId, NpgsqlDbType.Boolean, cancel);
            await copy.WriteAsync(visit.PageViews, NpgsqlDbType.Integer, cancel);
            await copy.WriteAsync(visit.Events, NpgsqlDbType.Integer, cancel);
            await copy.WriteAsync(visit.Seconds, NpgsqlDbType.Integer, cancel);
            await copy.WriteAsync(visit.Bounced, NpgsqlDbType.Boolean, cancel);
            await copy.WriteAsync(visit.Conversions.Count, NpgsqlDbType.Integer, cancel);
            await copy.WriteAsync(visit.TaggedInside, NpgsqlDbType.Boolean, cancel);
        }

        await copy.CompleteAsync(cancel);
    }

    private async Task CopyConversionsAsync(IReadOnlyList<Visit> visits, Dictionary<Combination, Guid> combinations, CancellationToken cancel)
    {
        await using var copy = await connection.BeginBinaryImportAsync(
            "copy conversion_change (sign, id, workspace_id, site_id, visit_id, visitor, at, day, kind, order_id, value, currency, items, combination_id) from stdin (format binary)", cancel);
        foreach (var visit in visits)
        {
            foreach (var conversion in visit.Conversions)
            {
                await copy.StartRowAsync(cancel);
                await copy.WriteAsync(1, NpgsqlDbType.Integer, cancel);
                await copy.WriteAsync(conversion.Id, NpgsqlDbType.Uuid, cancel);
                await copy.WriteAsync(visit.WorkspaceId, NpgsqlDbType.Uuid, cancel);
                await copy.WriteAsync(conversion.SiteId, NpgsqlDbType.Uuid, cancel);
                await copy.WriteAsync(visit.Id, NpgsqlDbType.Uuid, cancel);
                await copy.WriteAsync(visit.Visitor, NpgsqlDbType.Uuid, cancel);
                await copy.WriteAsync(conversion.At, NpgsqlDbType.TimestampTz, cancel);
                await copy.WriteAsync(visit.Day, NpgsqlDbType.Date, cancel);
                await copy.WriteAsync(conversion.Name, NpgsqlDbType.Text, cancel);
                await copy.WriteNullableAsync(conversion.OrderId, NpgsqlDbType.Text, cancel);
                await copy.WriteNullableAsync(conversion.Value, NpgsqlDbType.Numeric, cancel);
                await copy.WriteNullableAsync(conversion.Currency, NpgsqlDbType.Text, cancel);
                await copy.WriteNullableAsync(conversion.Items, NpgsqlDbType.Jsonb, cancel);
                await copy.WriteAsync(combinations[Combination.Of(visit)], NpgsqlDbType.Uuid, cancel);
            }
        }

        await copy.CompleteAsync(cancel);
    }

    private async Task RunAsync(string sql, CancellationToken cancel, params object[] values)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        foreach (object value in values)
        {
            command.Parameters.Add(new() { Value = value });
        }

        await command.ExecuteNonQueryAsync(cancel);
    }
}

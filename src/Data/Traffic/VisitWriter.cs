using Npgsql;
using NpgsqlTypes;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// Puts newly worked out visits in place of the old ones and carries the difference into the summaries.
/// </summary>
internal sealed class VisitWriter(NpgsqlConnection connection)
{
    private static readonly CopyTable<(Visit Visit, Guid Source)> VisitChanges = new CopyTable<(Visit Visit, Guid Source)>("visit_change")
        .Column("sign", NpgsqlDbType.Integer, _ => 1)
        .Column("id", NpgsqlDbType.Uuid, r => r.Visit.Id)
        .Column("workspace_id", NpgsqlDbType.Uuid, r => r.Visit.WorkspaceId)
        .Column("site_id", NpgsqlDbType.Uuid, r => r.Visit.SiteId)
        .Column("visitor", NpgsqlDbType.Uuid, r => r.Visit.Visitor)
        .Column("day", NpgsqlDbType.Date, r => r.Visit.Day)
        .Column("started_at", NpgsqlDbType.TimestampTz, r => r.Visit.StartedAt)
        .Column("ended_at", NpgsqlDbType.TimestampTz, r => r.Visit.EndedAt)
        .Column("combination_id", NpgsqlDbType.Uuid, r => r.Source)
        .Column("has_id", NpgsqlDbType.Boolean, r => r.Visit.HasId)
        .Column("page_views", NpgsqlDbType.Integer, r => r.Visit.PageViews)
        .Column("events", NpgsqlDbType.Integer, r => r.Visit.Events)
        .Column("seconds", NpgsqlDbType.Integer, r => r.Visit.Seconds)
        .Column("bounced", NpgsqlDbType.Boolean, r => r.Visit.Bounced)
        .Column("conversions", NpgsqlDbType.Integer, r => r.Visit.Conversions.Count)
        .Column("tagged_inside", NpgsqlDbType.Boolean, r => r.Visit.TaggedInside);

    private static readonly CopyTable<(Visit Visit, RawPageEvent Conversion, Guid Source)> ConversionChanges = new CopyTable<(
        Visit Visit,
        RawPageEvent Conversion,
        Guid Source
    )>("conversion_change")
        .Column("sign", NpgsqlDbType.Integer, _ => 1)
        .Column("id", NpgsqlDbType.Uuid, r => r.Conversion.Id)
        .Column("workspace_id", NpgsqlDbType.Uuid, r => r.Visit.WorkspaceId)
        .Column("site_id", NpgsqlDbType.Uuid, r => r.Conversion.SiteId)
        .Column("visit_id", NpgsqlDbType.Uuid, r => r.Visit.Id)
        .Column("visitor", NpgsqlDbType.Uuid, r => r.Visit.Visitor)
        .Column("at", NpgsqlDbType.TimestampTz, r => r.Conversion.At)
        .Column("day", NpgsqlDbType.Date, r => r.Visit.Day)
        .Column("kind", NpgsqlDbType.Text, r => r.Conversion.Name)
        .Nullable("order_id", NpgsqlDbType.Text, r => r.Conversion.OrderId)
        .Nullable("value", NpgsqlDbType.Numeric, r => r.Conversion.Value)
        .Nullable("currency", NpgsqlDbType.Text, r => r.Conversion.Currency)
        .Nullable("items", NpgsqlDbType.Jsonb, r => r.Conversion.Items)
        .Column("combination_id", NpgsqlDbType.Uuid, r => r.Source)
        .Column("verified", NpgsqlDbType.Boolean, r => r.Conversion.Verified);

    /// <summary>Replaces all visits and conversions of the given visitor days.</summary>
    public async Task ReplaceAsync(IReadOnlyList<VisitorDay> days, IReadOnlyList<Visit> visits, CancellationToken cancel)
    {
        await RunAsync(
            """
            create temp table if not exists visitor_day_due (workspace_id uuid, visitor uuid, day date) on commit delete rows;
            create temp table if not exists visit_change (sign int, like visit) on commit delete rows;
            create temp table if not exists conversion_change (sign int, like conversion) on commit delete rows;
            create temp table if not exists link_candidate
                (combination_id uuid, place int, other_page boolean, created_at timestamptz, link_id uuid) on commit delete rows
            """,
            cancel
        );
        await RunAsync(
            "insert into visitor_day_due select distinct * from unnest($1, $2, $3)",
            cancel,
            days.Select(d => d.WorkspaceId).ToArray(),
            days.Select(d => d.Visitor).ToArray(),
            days.Select(d => d.Day).ToArray()
        );
        await RunAsync("analyze visitor_day_due", cancel);
        await RunAsync(
            """
            with gone as (
                delete from visit v using visitor_day_due d
                where v.workspace_id = d.workspace_id and v.visitor = d.visitor and v.day = d.day
                returning v.*)
            insert into visit_change select -1, * from gone
            """,
            cancel
        );
        await RunAsync(
            """
            with gone as (
                delete from conversion c using visitor_day_due d
                where c.workspace_id = d.workspace_id and c.visitor = d.visitor and c.day = d.day
                returning c.*)
            insert into conversion_change select -1, * from gone
            """,
            cancel
        );
        await RunAsync(
            "delete from visitor_day v using visitor_day_due d where v.workspace_id = d.workspace_id and v.visitor = d.visitor and v.day = d.day",
            cancel
        );

        var combinations = visits.Select(TrafficSourceKey.Of).Distinct().ToDictionary(c => c, c => c.Id());
        await AddCombinationsAsync(combinations, cancel);
        await CopyVisitsAsync(visits, combinations, cancel);
        await CopyConversionsAsync(visits, combinations, cancel);
        await FindLinksAsync(combinations, cancel);
        await RunAsync(VisitSummaries.Sql, cancel);
    }

    /// <summary>
    /// The link behind a visit: with the same tags, made before the visit; exact tags before open ones, the page the
    /// visit began on before other pages, then the earliest made. A link made later never changes an earlier visit,
    /// so working out again gives the same.
    /// </summary>
    private async Task FindLinksAsync(Dictionary<TrafficSourceKey, Guid> combinations, CancellationToken cancel)
    {
        var keys = combinations
            .SelectMany(c =>
                c.Key.Tags.LinkKeys.Select((key, place) => (Id: c.Value, c.Key.WorkspaceId, c.Key.LandingPage, Key: key, Place: place))
            )
            .ToList();
        await RunAsync(
            """
            insert into link_candidate
            select k.id, k.place, l.page <> k.page, l.created_at, l.id
            from unnest($1, $2, $3, $4, $5) as k(id, workspace_id, page, tags_key, place)
            cross join lateral (
                (select id, page, created_at from links where workspace_id = k.workspace_id and tags_key = k.tags_key and page = k.page
                    order by created_at, id limit 1)
                union all
                (select id, page, created_at from links where workspace_id = k.workspace_id and tags_key = k.tags_key
                    order by created_at, id limit 1)
            ) l
            """,
            cancel,
            keys.Select(k => k.Id).ToArray(),
            keys.Select(k => k.WorkspaceId).ToArray(),
            keys.Select(k => k.LandingPage).ToArray(),
            keys.Select(k => k.Key).ToArray(),
            keys.Select(k => k.Place).ToArray()
        );
        await RunAsync(
            """
            analyze link_candidate; analyze visit_change; analyze conversion_change;

            update visit_change v set link_id = best.link_id
            from (
                select distinct on (n.id) n.id, c.link_id
                from visit_change n join link_candidate c on c.combination_id = n.combination_id and c.created_at <= n.started_at
                where n.sign = 1
                order by n.id, c.place, c.other_page, c.created_at, c.link_id
            ) best
            where v.sign = 1 and v.id = best.id;

            update conversion_change c set link_id = v.link_id
            from visit_change v where c.sign = 1 and v.sign = 1 and v.id = c.visit_id and v.link_id is not null
            """,
            cancel
        );
    }

    private Task AddCombinationsAsync(Dictionary<TrafficSourceKey, Guid> combinations, CancellationToken cancel)
    {
        var rows = combinations.OrderBy(c => c.Value).ToList();
        return RunAsync(
            """
            insert into combination (id, workspace_id, source, medium, campaign, term, content, tag_id, referrer_host, landing_page, device, own, printed)
            select * from unnest($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12::jsonb[], $13)
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
            rows.Select(r => r.Key.Device).ToArray(),
            rows.Select(r => r.Key.Tags.Own).ToArray(),
            rows.Select(r => r.Key.Printed).ToArray()
        );
    }

    private async Task CopyVisitsAsync(
        IReadOnlyList<Visit> visits,
        Dictionary<TrafficSourceKey, Guid> combinations,
        CancellationToken cancel
    )
    {
        await VisitChanges.WriteAsync(connection, visits.Select(v => (v, combinations[TrafficSourceKey.Of(v)])), cancel);
    }

    private async Task CopyConversionsAsync(
        IReadOnlyList<Visit> visits,
        Dictionary<TrafficSourceKey, Guid> combinations,
        CancellationToken cancel
    )
    {
        await ConversionChanges.WriteAsync(
            connection,
            visits.SelectMany(v => v.Conversions.Select(c => (v, c, combinations[TrafficSourceKey.Of(v)]))),
            cancel
        );
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

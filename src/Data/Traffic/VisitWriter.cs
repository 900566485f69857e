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
    private static readonly CopyTable<(Visit Visit, VisitKeys Keys)> VisitChanges = new CopyTable<(Visit Visit, VisitKeys Keys)>(
        "visit_change"
    )
        .Column("sign", NpgsqlDbType.Integer, _ => 1)
        .Column("id", NpgsqlDbType.Uuid, r => r.Visit.Id)
        .Column("workspace_id", NpgsqlDbType.Uuid, r => r.Visit.WorkspaceId)
        .Column("visitor", NpgsqlDbType.Uuid, r => r.Visit.Visitor)
        .Column("started_at", NpgsqlDbType.TimestampTz, r => r.Visit.StartedAt)
        .Column("ended_at", NpgsqlDbType.TimestampTz, r => r.Visit.EndedAt)
        .Nullable("hit_id", NpgsqlDbType.Uuid, r => r.Visit.HitId)
        .Nullable("link_id", NpgsqlDbType.Uuid, r => r.Visit.LinkId)
        .Column("source_id", NpgsqlDbType.Integer, r => r.Keys.SourceOf(r.Visit))
        .Column("landing_page_id", NpgsqlDbType.Integer, r => r.Keys.PageOf(r.Visit, r.Visit.LandingPage))
        .Column("last_page_id", NpgsqlDbType.Integer, r => r.Keys.PageOf(r.Visit, r.Visit.LastPage))
        .Column("place_id", NpgsqlDbType.Integer, r => r.Keys.PlaceOf(r.Visit))
        .Column("device_id", NpgsqlDbType.Integer, r => r.Keys.DeviceOf(r.Visit))
        .Column("day", NpgsqlDbType.Date, r => r.Visit.Day)
        .Column("page_views", NpgsqlDbType.Integer, r => r.Visit.PageViews)
        .Column("events", NpgsqlDbType.Integer, r => r.Visit.Events)
        .Column("seconds", NpgsqlDbType.Integer, r => r.Visit.Seconds)
        .Column("conversions", NpgsqlDbType.Integer, r => r.Visit.Conversions.Count)
        .Column("hour", NpgsqlDbType.Smallint, r => (short)r.Visit.Hour)
        .Column("has_id", NpgsqlDbType.Boolean, r => r.Visit.HasId)
        .Column("bounced", NpgsqlDbType.Boolean, r => r.Visit.Bounced)
        .Column("tagged_inside", NpgsqlDbType.Boolean, r => r.Visit.TaggedInside);

    private static readonly CopyTable<(Visit Visit, int Place, VisitKeys Keys)> PageViews = new CopyTable<(
        Visit Visit,
        int Place,
        VisitKeys Keys
    )>("page_view")
        .Column("visit_id", NpgsqlDbType.Uuid, r => r.Visit.Id)
        .Column("workspace_id", NpgsqlDbType.Uuid, r => r.Visit.WorkspaceId)
        .Column("visitor", NpgsqlDbType.Uuid, r => r.Visit.Visitor)
        .Column("at", NpgsqlDbType.TimestampTz, r => r.Visit.Views[r.Place].At)
        .Column("day", NpgsqlDbType.Date, r => r.Visit.Day)
        .Column("page_id", NpgsqlDbType.Integer, r => r.Keys.PageOf(r.Visit, r.Visit.Views[r.Place].Page))
        .Column("place", NpgsqlDbType.Integer, r => r.Place);

    private static readonly CopyTable<(Visit Visit, RawPageEvent Conversion, VisitKeys Keys)> ConversionChanges = new CopyTable<(
        Visit Visit,
        RawPageEvent Conversion,
        VisitKeys Keys
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
        .Column("source_id", NpgsqlDbType.Integer, r => r.Keys.SourceOf(r.Visit))
        .Column("landing_page_id", NpgsqlDbType.Integer, r => r.Keys.PageOf(r.Visit, r.Visit.LandingPage))
        .Column("last_page_id", NpgsqlDbType.Integer, r => r.Keys.PageOf(r.Visit, r.Visit.LastPage))
        .Column("place_id", NpgsqlDbType.Integer, r => r.Keys.PlaceOf(r.Visit))
        .Column("device_id", NpgsqlDbType.Integer, r => r.Keys.DeviceOf(r.Visit))
        .Column("hour", NpgsqlDbType.Smallint, r => (short)r.Visit.Hour)
        .Nullable("link_id", NpgsqlDbType.Uuid, r => r.Visit.LinkId)
        .Column("verified", NpgsqlDbType.Boolean, r => r.Conversion.Verified);

    /// <summary>Replaces all visits and conversions of the given visitor days.</summary>
    public async Task ReplaceAsync(IReadOnlyList<VisitorDay> days, IReadOnlyList<Visit> visits, CancellationToken cancel)
    {
        await RunAsync(
            """
            create temp table if not exists visitor_day_due (workspace_id uuid, visitor uuid, day date) on commit delete rows;
            create temp table if not exists visit_change (sign int, like visit) on commit delete rows;
            create temp table if not exists conversion_change (sign int, like conversion) on commit delete rows
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
            "delete from page_view v using visitor_day_due d where v.workspace_id = d.workspace_id and v.visitor = d.visitor and v.day = d.day",
            cancel
        );

        var keys = await VisitKeys.OfAsync(connection, visits, cancel);
        await VisitChanges.WriteAsync(connection, visits.Select(v => (v, keys)), cancel);
        await PageViews.WriteAsync(connection, visits.SelectMany(v => v.Views.Select((_, place) => (v, place, keys))), cancel);
        await ConversionChanges.WriteAsync(connection, visits.SelectMany(v => v.Conversions.Select(c => (v, c, keys))), cancel);
        await RunAsync("analyze visit_change; analyze conversion_change", cancel);
        await RunAsync(VisitSummaries.Sql, cancel);
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

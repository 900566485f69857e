using Npgsql;
using NpgsqlTypes;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// Puts newly worked out visits in place of the old ones, and marks their hours as changed for reports.
/// </summary>
internal sealed class VisitWriter(NpgsqlConnection connection)
{
    private static readonly CopyTable<(Visit Visit, VisitKeys Keys, FirstVisits Firsts)> Visits = new CopyTable<(
        Visit Visit,
        VisitKeys Keys,
        FirstVisits Firsts
    )>("visit")
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
        .Column("tagged_inside", NpgsqlDbType.Boolean, r => r.Visit.TaggedInside)
        .Column("is_new", NpgsqlDbType.Boolean, r => r.Firsts.IsNew(r.Visit))
        .Nullable("first_source_id", NpgsqlDbType.Integer, r => r.Firsts.SourceOf(r.Visit))
        .Nullable("tags", NpgsqlDbType.Jsonb, r => r.Keys.IsLimited(r.Visit) ? r.Visit.Tags.Json : null)
        .Nullable("referrer_host", NpgsqlDbType.Text, r => r.Keys.IsLimited(r.Visit) ? r.Visit.ReferrerHost : null);

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

    private static readonly CopyTable<(Visit Visit, string Name, int Times)> Events = new CopyTable<(Visit Visit, string Name, int Times)>(
        "visit_event"
    )
        .Column("visit_id", NpgsqlDbType.Uuid, r => r.Visit.Id)
        .Column("workspace_id", NpgsqlDbType.Uuid, r => r.Visit.WorkspaceId)
        .Column("visitor", NpgsqlDbType.Uuid, r => r.Visit.Visitor)
        .Column("at", NpgsqlDbType.TimestampTz, r => r.Visit.StartedAt)
        .Column("day", NpgsqlDbType.Date, r => r.Visit.Day)
        .Column("hour", NpgsqlDbType.Smallint, r => (short)r.Visit.Hour)
        .Column("name", NpgsqlDbType.Text, r => r.Name)
        .Column("times", NpgsqlDbType.Integer, r => r.Times);

    private static readonly CopyTable<(Visit Visit, string Name, VisitSpot Spot)> Spots = new CopyTable<(
        Visit Visit,
        string Name,
        VisitSpot Spot
    )>("visit_spot")
        .Column("visit_id", NpgsqlDbType.Uuid, r => r.Visit.Id)
        .Column("workspace_id", NpgsqlDbType.Uuid, r => r.Visit.WorkspaceId)
        .Column("visitor", NpgsqlDbType.Uuid, r => r.Visit.Visitor)
        .Column("at", NpgsqlDbType.TimestampTz, r => r.Visit.StartedAt)
        .Column("day", NpgsqlDbType.Date, r => r.Visit.Day)
        .Column("name", NpgsqlDbType.Text, r => r.Name)
        .Column("seen", NpgsqlDbType.Integer, r => r.Spot.Seen)
        .Column("clicked", NpgsqlDbType.Integer, r => r.Spot.Clicked)
        .Column("after_seen", NpgsqlDbType.Integer, r => r.Spot.ConversionsAfterSeen)
        .Column("after_clicked", NpgsqlDbType.Integer, r => r.Spot.ConversionsAfterClicked);

    private static readonly CopyTable<(Visit Visit, RawPageEvent Conversion, VisitKeys Keys)> Conversions = new CopyTable<(
        Visit Visit,
        RawPageEvent Conversion,
        VisitKeys Keys
    )>("conversion")
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
        .Column("verified", NpgsqlDbType.Boolean, r => r.Conversion.Verified)
        .Nullable("happened_at", NpgsqlDbType.TimestampTz, r => r.Conversion.HappenedAt);

    /// <summary>Replaces all visits and conversions of the given visitor days.</summary>
    public async Task ReplaceAsync(IReadOnlyList<VisitorDay> days, IReadOnlyList<Visit> visits, CancellationToken cancel)
    {
        if (days.Count == 0)
        {
            return;
        }

        await RunAsync(
            """
            create temp table if not exists visitor_day_due (workspace_id uuid, visitor uuid, day date) on commit delete rows;
            create temp table if not exists changed_hour (workspace_id uuid, day date, hour smallint) on commit delete rows
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

        // Said as moments too, so that months that can't hold any are not looked into. A visit may go on for long after its day.
        var earliest = DayBegin(days.Min(d => d.Day));
        await RunAsync(
            """
            with gone as (
                delete from visit v using visitor_day_due d
                where v.workspace_id = d.workspace_id and v.visitor = d.visitor and v.day = d.day
                    and v.started_at >= $1 and v.started_at < $2
                returning v.workspace_id, v.day, v.hour)
            insert into changed_hour select distinct workspace_id, day, hour from gone
            """,
            cancel,
            earliest,
            DayEnd(days.Max(d => d.Day))
        );
        foreach (string table in (string[])["conversion", "page_view", "visit_event", "visit_spot"])
        {
            await RunAsync(
                $"delete from {table} r using visitor_day_due d where r.workspace_id = d.workspace_id and r.visitor = d.visitor and r.day = d.day and r.at >= $1",
                cancel,
                earliest
            );
        }

        var keys = await VisitKeys.OfAsync(connection, visits, cancel);
        var firsts = new FirstVisits(connection, keys);
        await firsts.SettleAsync(days, visits, cancel);
        await Visits.WriteAsync(connection, visits.Select(v => (v, keys, firsts)), cancel);
        await PageViews.WriteAsync(connection, visits.SelectMany(v => v.Views.Select((_, place) => (v, place, keys))), cancel);
        await Events.WriteAsync(connection, visits.SelectMany(v => keys.EventsOf(v).Select(e => (v, e.Name, e.Times))), cancel);
        await Spots.WriteAsync(connection, visits.SelectMany(v => keys.SpotsOf(v).Select(s => (v, s.Name, s.Spot))), cancel);
        await Conversions.WriteAsync(connection, visits.SelectMany(v => v.Conversions.Select(c => (v, c, keys))), cancel);

        var hours = visits.Select(v => (v.WorkspaceId, v.Day, v.Hour)).Distinct().ToList();
        await RunAsync(
            """
            insert into visit_segment_due (workspace_id, day, hour, changed_at)
            select workspace_id, day, hour, now() from (
                select * from changed_hour union select * from unnest($1, $2, $3)
            ) h order by 1, 2, 3
            on conflict (workspace_id, day, hour) do update set changed_at = excluded.changed_at
            """,
            cancel,
            hours.Select(h => h.WorkspaceId).ToArray(),
            hours.Select(h => h.Day).ToArray(),
            hours.Select(h => (short)h.Hour).ToArray()
        );
    }

    /// <summary>No zone's day begins before it.</summary>
    private static DateTime DayBegin(DateOnly day) => day.AddDays(-1).ToDateTime(TimeOnly.MinValue, DateTimeKind.Utc);

    /// <summary>No zone's day ends after it.</summary>
    private static DateTime DayEnd(DateOnly day) => day.AddDays(2).ToDateTime(TimeOnly.MinValue, DateTimeKind.Utc);

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

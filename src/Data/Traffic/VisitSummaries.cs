namespace PreciseBeacon.Data.Traffic;

/// <summary>Carries replaced visits and conversions into the day and month summaries and into their tables.</summary>
public static class VisitSummaries
{
    public const string Sql = Days + Months + Rows;

    /// <summary>Sums up all visits and conversions there are; the summaries are empty before.</summary>
    public const string AllSql = """
        insert into source_day (workspace_id, day, source_id, visits, page_views, events, seconds, bounces, converting_visits, with_id)
        select workspace_id, day, source_id, count(*), sum(page_views), sum(events), sum(seconds), count(*) filter (where bounced),
            count(*) filter (where conversions > 0), count(*) filter (where has_id)
        from visit group by 1, 2, 3;

        insert into source_month (workspace_id, month, source_id, visits, page_views, events, seconds, bounces, converting_visits, with_id)
        select workspace_id, date_trunc('month', day)::date, source_id, sum(visits), sum(page_views), sum(events), sum(seconds), sum(bounces),
            sum(converting_visits), sum(with_id)
        from source_day group by 1, 2, 3;

        insert into conversion_day (workspace_id, day, source_id, kind, currency, conversions, revenue, verified)
        select workspace_id, day, source_id, kind, coalesce(currency, ''), count(*), sum(coalesce(value, 0)), count(*) filter (where verified)
        from conversion group by 1, 2, 3, 4, 5;

        insert into conversion_month (workspace_id, month, source_id, kind, currency, conversions, revenue, verified)
        select workspace_id, date_trunc('month', day)::date, source_id, kind, currency, sum(conversions), sum(revenue), sum(verified)
        from conversion_day group by 1, 2, 3, 4, 5;
        """;

    private const string VisitSums = """
        sum(sign), sum(sign * page_views), sum(sign * events), sum(sign * seconds::bigint),
        sum(case when bounced then sign else 0 end), sum(case when conversions > 0 then sign else 0 end),
        sum(case when has_id then sign else 0 end)
        """;

    private const string VisitAdds = """
        visits = s.visits + excluded.visits,
        page_views = s.page_views + excluded.page_views,
        events = s.events + excluded.events,
        seconds = s.seconds + excluded.seconds,
        bounces = s.bounces + excluded.bounces,
        converting_visits = s.converting_visits + excluded.converting_visits,
        with_id = s.with_id + excluded.with_id
        """;

    private const string Days = $"""
        insert into source_day as s (workspace_id, day, source_id, visits, page_views, events, seconds, bounces, converting_visits, with_id)
        select workspace_id, day, source_id, {VisitSums} from visit_change group by 1, 2, 3
        on conflict (workspace_id, day, source_id) do update set {VisitAdds};

        delete from source_day s using (select distinct workspace_id, day, source_id from visit_change) c
        where s.workspace_id = c.workspace_id and s.day = c.day and s.source_id = c.source_id and s.visits = 0;

        insert into conversion_day as s (workspace_id, day, source_id, kind, currency, conversions, revenue, verified)
        select workspace_id, day, source_id, kind, coalesce(currency, ''), sum(sign), sum(sign * coalesce(value, 0)), sum(case when verified then sign else 0 end)
        from conversion_change group by 1, 2, 3, 4, 5
        on conflict (workspace_id, day, source_id, kind, currency) do update set
            conversions = s.conversions + excluded.conversions,
            revenue = s.revenue + excluded.revenue,
            verified = s.verified + excluded.verified;

        delete from conversion_day s using (select distinct workspace_id, day, source_id from conversion_change) c
        where s.workspace_id = c.workspace_id and s.day = c.day and s.source_id = c.source_id and s.conversions = 0;

        """;

    private const string Months = $"""
        insert into source_month as s (workspace_id, month, source_id, visits, page_views, events, seconds, bounces, converting_visits, with_id)
        select workspace_id, date_trunc('month', day)::date, source_id, {VisitSums} from visit_change group by 1, 2, 3
        on conflict (workspace_id, month, source_id) do update set {VisitAdds};

        delete from source_month s using (select distinct workspace_id, date_trunc('month', day)::date as month, source_id from visit_change) c
        where s.workspace_id = c.workspace_id and s.month = c.month and s.source_id = c.source_id and s.visits = 0;

        insert into conversion_month as s (workspace_id, month, source_id, kind, currency, conversions, revenue, verified)
        select workspace_id, date_trunc('month', day)::date, source_id, kind, coalesce(currency, ''), sum(sign), sum(sign * coalesce(value, 0)), sum(case when verified then sign else 0 end)
        from conversion_change group by 1, 2, 3, 4, 5
        on conflict (workspace_id, month, source_id, kind, currency) do update set
            conversions = s.conversions + excluded.conversions,
            revenue = s.revenue + excluded.revenue,
            verified = s.verified + excluded.verified;

        delete from conversion_month s using (select distinct workspace_id, date_trunc('month', day)::date as month, source_id from conversion_change) c
        where s.workspace_id = c.workspace_id and s.month = c.month and s.source_id = c.source_id and s.conversions = 0;

        """;

    private const string Rows = """
        insert into visit (id, workspace_id, visitor, started_at, ended_at, hit_id, link_id, source_id, landing_page_id, last_page_id, place_id, device_id, day, page_views, events, seconds,
            conversions, hour, has_id, bounced, tagged_inside)
        select id, workspace_id, visitor, started_at, ended_at, hit_id, link_id, source_id, landing_page_id, last_page_id, place_id, device_id, day, page_views, events, seconds,
            conversions, hour, has_id, bounced, tagged_inside
        from visit_change where sign = 1;

        insert into conversion (id, workspace_id, site_id, visit_id, visitor, at, day, kind, order_id, value, currency, items, source_id, landing_page_id, last_page_id,
            place_id, device_id, hour, link_id, verified)
        select id, workspace_id, site_id, visit_id, visitor, at, day, kind, order_id, value, currency, items, source_id, landing_page_id, last_page_id,
            place_id, device_id, hour, link_id, verified
        from conversion_change where sign = 1;
        """;
}

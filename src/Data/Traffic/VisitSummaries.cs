namespace PreciseBeacon.Data.Traffic;

/// <summary>Carries replaced visits and conversions into the day and month summaries and into their tables.</summary>
internal static class VisitSummaries
{
    public const string Sql = Days + Months + Rows;

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
        insert into visit_day as s (workspace_id, day, combination_id, visits, page_views, events, seconds, bounces, converting_visits, with_id)
        select workspace_id, day, combination_id, {VisitSums} from visit_change group by 1, 2, 3
        on conflict (workspace_id, day, combination_id) do update set {VisitAdds};

        delete from visit_day s using (select distinct workspace_id, day, combination_id from visit_change) c
        where s.workspace_id = c.workspace_id and s.day = c.day and s.combination_id = c.combination_id and s.visits = 0;

        insert into visitor_day (workspace_id, day, combination_id, visitor)
        select distinct workspace_id, day, combination_id, visitor from visit_change where sign = 1
        on conflict do nothing;

        insert into conversion_day as s (workspace_id, day, combination_id, kind, currency, conversions, revenue, verified)
        select workspace_id, day, combination_id, kind, coalesce(currency, ''), sum(sign), sum(sign * coalesce(value, 0)), sum(case when verified then sign else 0 end)
        from conversion_change group by 1, 2, 3, 4, 5
        on conflict (workspace_id, day, combination_id, kind, currency) do update set
            conversions = s.conversions + excluded.conversions,
            revenue = s.revenue + excluded.revenue,
            verified = s.verified + excluded.verified;

        delete from conversion_day s using (select distinct workspace_id, day, combination_id from conversion_change) c
        where s.workspace_id = c.workspace_id and s.day = c.day and s.combination_id = c.combination_id and s.conversions = 0;

        """;

    private const string Months = $"""
        insert into visit_month as s (workspace_id, month, combination_id, visits, page_views, events, seconds, bounces, converting_visits, with_id)
        select workspace_id, date_trunc('month', day)::date, combination_id, {VisitSums} from visit_change group by 1, 2, 3
        on conflict (workspace_id, month, combination_id) do update set {VisitAdds};

        delete from visit_month s using (select distinct workspace_id, date_trunc('month', day)::date as month, combination_id from visit_change) c
        where s.workspace_id = c.workspace_id and s.month = c.month and s.combination_id = c.combination_id and s.visits = 0;

        insert into conversion_month as s (workspace_id, month, combination_id, kind, currency, conversions, revenue, verified)
        select workspace_id, date_trunc('month', day)::date, combination_id, kind, coalesce(currency, ''), sum(sign), sum(sign * coalesce(value, 0)), sum(case when verified then sign else 0 end)
        from conversion_change group by 1, 2, 3, 4, 5
        on conflict (workspace_id, month, combination_id, kind, currency) do update set
            conversions = s.conversions + excluded.conversions,
            revenue = s.revenue + excluded.revenue,
            verified = s.verified + excluded.verified;

        delete from conversion_month s using (select distinct workspace_id, date_trunc('month', day)::date as month, combination_id from conversion_change) c
        where s.workspace_id = c.workspace_id and s.month = c.month and s.combination_id = c.combination_id and s.conversions = 0;

        """;

    private const string Rows = """
        insert into visit (id, workspace_id, site_id, visitor, day, started_at, ended_at, combination_id, has_id,
            page_views, events, seconds, bounced, conversions, tagged_inside, link_id)
        select id, workspace_id, site_id, visitor, day, started_at, ended_at, combination_id, has_id,
            page_views, events, seconds, bounced, conversions, tagged_inside, link_id
        from visit_change where sign = 1;

        insert into conversion (id, workspace_id, site_id, visit_id, visitor, at, day, kind, order_id, value, currency, items, combination_id, link_id, verified)
        select id, workspace_id, site_id, visit_id, visitor, at, day, kind, order_id, value, currency, items, combination_id, link_id, verified
        from conversion_change where sign = 1;
        """;
}

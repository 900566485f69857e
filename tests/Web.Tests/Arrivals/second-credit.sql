-- Credit for conversions, computed a second time over second_visit: written from the rules of the job alone (figures, credit). The
-- conversions are those of people, each order once; a touch is a visit of the same visitor that began at most so many days before.
create or replace function second_credit(model text, days int) returns table (conversion uuid, visit uuid, day date, parts bigint, money numeric)
language sql as $$
    with happened as (
        select p.*, row_number() over (partition by p.site_id, p.order_id order by p.at, p.id) as times
        from page_event p where p.kind = 2 and p.user_agent !~* 'bot|crawler|spider'
    ), counted as (
        select h.id, v.visit_id, v.visitor, v.day, floor(extract(epoch from v.started)) as at,
            case when coalesce(h.currency, 'EUR') = 'EUR' then coalesce(h.value, 0) else 0 end as value
        from happened h join second_visit v on v.visitor = h.visitor and v.site = h.site_id and h.at between v.started and v.ended
        where h.order_id is null or h.times = 1
    ), touch as (
        select c.id, c.day, c.value, t.visit_id, t.tags <> '{}' as tagged, (c.at - floor(extract(epoch from t.started))) / 86400 as age,
            row_number() over (partition by c.id order by floor(extract(epoch from t.started)), t.visit_id = c.visit_id) as n,
            count(*) over (partition by c.id) as touches
        from counted c join second_visit t on t.visitor = c.visitor and floor(extract(epoch from t.started)) between c.at - days * 86400 and c.at
    ), weighed as (
        select *, case model
                when 'last' then (n = touches)::int
                when 'first' then (n = 1)::int
                when 'lastTagged' then (n = coalesce(max(n) filter (where tagged) over (partition by id), touches))::int
                when 'equal' then 1
                when 'ends' then case
                    when touches <= 2 then 35
                    when n in (1, touches) then 35 * (touches - 2)
                    else 30 end
                else round((2 ^ (-age::float8 / 10) * 2 ^ 30)::numeric)
            end::numeric as weight
        from touch
    ), shared as (
        select id, day, visit_id, n, 1000000 * weight / sum(weight) over (partition by id) as part,
            100 * value * weight / sum(weight) over (partition by id) as cents, value
        from weighed
    ), ranked as (
        select *, row_number() over (partition by id order by part - floor(part) desc, n) as part_rank,
            row_number() over (partition by id order by cents - floor(cents) desc, n) as cent_rank,
            1000000 - sum(floor(part)) over (partition by id) as parts_left, 100 * value - sum(floor(cents)) over (partition by id) as cents_left
        from shared
    )
    select id, visit_id, day, (floor(part) + (part_rank <= parts_left)::int)::bigint, (floor(cents) + (cent_rank <= cents_left)::int) / 100
    from ranked
$$;

-- The visits of raw page events, computed a second time: written from the rules of the job alone (hits, visits, visitors), one event
-- after another, without anything of the product's own code.
create or replace function second_visits(zone text) returns table (
    visit_id uuid, visitor uuid, site uuid, started timestamptz, ended timestamptz, day date, hour int, tags jsonb, referrer text,
    landing text, last_page text, country text, device text, language text, has_id boolean, views int, named int, conversions int, revenue numeric, is_new boolean, tickets int, adoptions int, maps int
) language plpgsql as $$
#variable_conflict use_column
declare
    e record;
    pair text;
    key text;
    its_tags jsonb;
    came_from text;
    own boolean;
    begins boolean;
    page text;
    from_visit record;
    counts boolean;
begin
    create temp table second (
        n serial, visit_id uuid, visitor uuid, site uuid, started timestamptz, ended timestamptz, tags jsonb, referrer text, landing text,
        last_page text, country text, device text, language text, has_id boolean, views int, named int, conversions int, revenue numeric, tickets int, adoptions int, maps int
    ) on commit drop;
    for e in
        select p.*, row_number() over (partition by p.site_id, p.order_id order by p.at, p.id) as times
        from page_event p where p.user_agent !~* 'bot|crawler|spider' order by p.visitor, p.at, p.id
    loop
        -- Tags are the parameters of the address; a referrer of one's own, or of a page people pass through, is none.
        its_tags := '{}';
        foreach pair in array string_to_array(coalesce(substring(e.url from '\?([^#]*)'), ''), '&') loop
            key := lower(split_part(pair, '=', 1));
            if key like 'utm%' and split_part(pair, '=', 2) <> '' and not its_tags ? key then
                its_tags := its_tags || jsonb_build_object(key, split_part(pair, '=', 2));
            end if;
        end loop;
        came_from := coalesce(substring(lower(e.referrer) from '^https?://([^/?#]+)'), '');
        own := exists (select from site_hosts h where h.host = came_from) or came_from ~ '(^|\.)pay\.example(:[0-9]+)?$';
        if own then
            came_from := '';
        end if;
        if exists (select from short_domains d where d.host = came_from) then
            came_from := '';
            own := its_tags = '{}';
        end if;
        page := lower(substring(e.url from '^https?://([^/?#]+)')) || coalesce(substring(e.url from '^https?://[^/?#]+([^?#]*)'), '/');

        -- Does it go on with the visitor's visit on this site?
        select * into from_visit from second s where s.visitor = e.visitor and s.site = e.site_id order by s.n desc limit 1;
        begins := not found or e.at - from_visit.ended > interval '30 minutes'
            or (e.kind = 0 and not own and (
                (its_tags <> '{}' and its_tags <> from_visit.tags) or (came_from <> '' and came_from <> from_visit.referrer)));
        if begins then
            if own then
                its_tags := '{}';
                came_from := '';
                select * into from_visit from second s
                where s.visitor = e.visitor and (s.ended at time zone zone)::date = (e.at at time zone zone)::date order by s.ended desc limit 1;
                if found then
                    its_tags := from_visit.tags;
                    came_from := from_visit.referrer;
                end if;
            end if;
            insert into second (visit_id, visitor, site, started, ended, tags, referrer, landing, last_page, country, device, language, has_id, views, named, conversions, revenue, tickets, adoptions, maps)
            values (e.id, e.visitor, e.site_id, e.at, e.at, its_tags, came_from, page, page, e.country,
                case when e.user_agent ~ 'Phone' then 'phone' else 'computer' end, e.language, e.has_id, 0, 0, 0, 0, 0, 0, 0)
            returning * into from_visit;
        end if;

        -- An order of a site's shop counts once, for whoever of the people reported it first.
        counts := e.kind = 2 and (e.order_id is null or e.times = 1);
        update second s set ended = e.at,
            views = s.views + (e.kind = 0)::int, named = s.named + (e.kind = 1)::int, conversions = s.conversions + counts::int,
            tickets = s.tickets + (counts and e.name = 'ticket')::int, adoptions = s.adoptions + (counts and e.name = 'a year, adopted')::int,
            maps = s.maps + (e.kind = 1 and e.name = 'map opened')::int,
            last_page = case when e.kind = 0 then page else s.last_page end,
            revenue = s.revenue + case when counts and coalesce(e.currency, 'EUR') = 'EUR' then coalesce(e.value, 0) else 0 end
        where s.n = from_visit.n;
    end loop;
    return query
        select s.visit_id, s.visitor, s.site, s.started, s.ended, (s.started at time zone zone)::date, extract(hour from s.started at time zone zone)::int,
            s.tags, s.referrer, s.landing, s.last_page, s.country, s.device, s.language, s.has_id, s.views, s.named, s.conversions, s.revenue,
            s.has_id and not exists (
                select from second o where o.visitor = s.visitor and o.has_id and (o.started, o.visit_id) < (s.started, s.visit_id)),
            s.tickets, s.adoptions, s.maps
        from second s;
end $$;

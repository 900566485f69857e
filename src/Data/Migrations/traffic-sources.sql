-- Visits by small integer keys, with what they came from kept raw, their pages, and where they were. Everything here is worked out from
-- raw events, so it is worked out anew instead of being carried over.

drop table visit, conversion, combination, visit_day, visit_month, visitor_day, conversion_day, conversion_month;

alter table page_event
    add column country text not null default '',
    add column region text not null default '',
    add column city text not null default '',
    add column language text not null default '';

-- The distinct raw ways in which visits arrived. The hash is of all the rest: tags of any length find their row.
create table traffic_source (
    id int generated always as identity primary key,
    workspace_id uuid not null,
    hash uuid not null,
    site_id uuid not null,
    link_id uuid,
    referrer_host text not null,
    printed boolean not null,
    tags jsonb not null,
    unique (workspace_id, hash)
);

create table visited_page (
    id int generated always as identity primary key,
    workspace_id uuid not null,
    key bigint not null,
    address text not null,
    unique (workspace_id, key)
);

create table visit_place (
    id int generated always as identity primary key,
    country text not null,
    region text not null,
    city text not null,
    unique (country, region, city)
);

create table visit_device (
    id int generated always as identity primary key,
    kind text not null,
    language text not null,
    unique (kind, language)
);

create table visit (
    id uuid not null,
    workspace_id uuid not null,
    visitor uuid not null,
    started_at timestamptz not null,
    ended_at timestamptz not null,
    hit_id uuid,
    link_id uuid,
    source_id int not null,
    landing_page_id int not null,
    last_page_id int not null,
    place_id int not null,
    device_id int not null,
    day date not null,
    page_views int not null,
    events int not null,
    seconds int not null,
    conversions int not null,
    hour smallint not null,
    has_id boolean not null,
    bounced boolean not null,
    tagged_inside boolean not null,
    primary key (started_at, id)
) partition by range (started_at);
create index on visit (workspace_id, visitor, day);
create index on visit (workspace_id, day);
create index on visit (link_id) where link_id is not null;

create table page_view (
    visit_id uuid not null,
    workspace_id uuid not null,
    visitor uuid not null,
    at timestamptz not null,
    day date not null,
    page_id int not null,
    place int not null,
    primary key (at, visit_id, place)
) partition by range (at);
create index on page_view (workspace_id, visitor, day);

create table conversion (
    id uuid not null,
    workspace_id uuid not null,
    site_id uuid not null,
    visit_id uuid not null,
    visitor uuid not null,
    at timestamptz not null,
    day date not null,
    kind text not null,
    order_id text,
    value numeric,
    currency text,
    items jsonb,
    source_id int not null,
    landing_page_id int not null,
    last_page_id int not null,
    place_id int not null,
    device_id int not null,
    hour smallint not null,
    link_id uuid,
    verified boolean not null default false,
    primary key (at, id)
) partition by range (at);
create index on conversion (workspace_id, visitor, day);
create index on conversion (link_id) where link_id is not null;

create table source_day (
    workspace_id uuid not null,
    day date not null,
    source_id int not null,
    visits bigint not null,
    page_views bigint not null,
    events bigint not null,
    seconds bigint not null,
    bounces bigint not null,
    converting_visits bigint not null,
    with_id bigint not null,
    primary key (workspace_id, day, source_id)
);

create table source_month (
    workspace_id uuid not null,
    month date not null,
    source_id int not null,
    visits bigint not null,
    page_views bigint not null,
    events bigint not null,
    seconds bigint not null,
    bounces bigint not null,
    converting_visits bigint not null,
    with_id bigint not null,
    primary key (workspace_id, month, source_id)
);

create table conversion_day (
    workspace_id uuid not null,
    day date not null,
    source_id int not null,
    kind text not null,
    currency text not null,
    conversions bigint not null,
    revenue numeric not null,
    verified bigint not null,
    primary key (workspace_id, day, source_id, kind, currency)
);

create table conversion_month (
    workspace_id uuid not null,
    month date not null,
    source_id int not null,
    kind text not null,
    currency text not null,
    conversions bigint not null,
    revenue numeric not null,
    verified bigint not null,
    primary key (workspace_id, month, source_id, kind, currency)
);

create or replace function make_month(wanted date) returns void language plpgsql as $$
declare
    first date := date_trunc('month', wanted)::date;
    part text;
begin
    if exists (select from made_month where month = first) then
        return;
    end if;
    perform pg_advisory_xact_lock(7002);
    if exists (select from made_month where month = first) then
        return;
    end if;
    foreach part in array array['hit', 'page_event', 'click', 'visit', 'page_view', 'conversion'] loop
        execute format('create table %I partition of %I for values from (%L) to (%L)',
            part || to_char(first, '_YYYYMM'), part,
            to_char(first, 'YYYY-MM-DD') || ' 00:00+00',
            to_char(first + interval '1 month', 'YYYY-MM-DD') || ' 00:00+00');
    end loop;
    insert into made_month values (first);
end $$;

do $$
declare
    first date;
    part text;
begin
    for first in select month from made_month loop
        foreach part in array array['visit', 'page_view', 'conversion'] loop
            execute format('create table %I partition of %I for values from (%L) to (%L)',
                part || to_char(first, '_YYYYMM'), part,
                to_char(first, 'YYYY-MM-DD') || ' 00:00+00',
                to_char(first + interval '1 month', 'YYYY-MM-DD') || ' 00:00+00');
        end loop;
    end loop;
end $$;

insert into visit_due (workspace_id, visitor, day)
select distinct e.workspace_id, e.visitor, (e.at at time zone w.time_zone)::date
from page_event e join workspaces w on w.id = e.workspace_id;

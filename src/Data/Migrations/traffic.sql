-- Raw events, what is worked out from them, and the marks of what is due. Written in bulk; see docs/pipeline.md.

create table hit (
    id uuid not null,
    workspace_id uuid not null,
    at timestamptz not null,
    short_link_id uuid not null,
    visitor uuid not null,
    earlier_visitor uuid,
    flags smallint not null,
    user_agent text not null,
    referrer text not null,
    primary key (at, id)
) partition by range (at);
create index on hit (workspace_id, visitor, short_link_id, at);

create table page_event (
    id uuid not null,
    workspace_id uuid not null,
    site_id uuid not null,
    at timestamptz not null,
    kind smallint not null,
    url text not null,
    referrer text not null,
    visitor uuid not null,
    earlier_visitor uuid,
    has_id boolean not null,
    user_agent text not null,
    name text not null,
    order_id text,
    value numeric,
    currency text,
    items jsonb,
    verified boolean not null default false,
    primary key (at, id)
) partition by range (at);
create index on page_event (workspace_id, visitor, at);
create index on page_event (site_id, order_id) where order_id is not null;

create table click (
    hit_id uuid not null,
    workspace_id uuid not null,
    at timestamptz not null,
    day date not null,
    short_link_id uuid not null,
    visitor uuid not null,
    kind text not null,
    device text not null,
    referrer_host text not null,
    primary key (at, hit_id)
) partition by range (at);
create index on click (workspace_id, visitor, short_link_id, at);
create index on click (short_link_id, at);

create table visit (
    id uuid not null,
    workspace_id uuid not null,
    site_id uuid not null,
    visitor uuid not null,
    day date not null,
    started_at timestamptz not null,
    ended_at timestamptz not null,
    combination_id uuid not null,
    has_id boolean not null,
    page_views int not null,
    events int not null,
    seconds int not null,
    bounced boolean not null,
    conversions int not null,
    tagged_inside boolean not null,
    primary key (started_at, id)
) partition by range (started_at);
create index on visit (workspace_id, visitor, day);
create index on visit (workspace_id, day);

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
    combination_id uuid not null,
    primary key (at, id)
) partition by range (at);
create index on conversion (workspace_id, visitor, day);

-- The distinct raw ways in which visits arrived. Its id is a hash of the rest, so working out again gives the same.
create table combination (
    id uuid primary key,
    workspace_id uuid not null,
    source text,
    medium text,
    campaign text,
    term text,
    content text,
    tag_id text,
    referrer_host text not null,
    landing_page text not null,
    device text not null
);
create index on combination (workspace_id);

create table visit_day (
    workspace_id uuid not null,
    day date not null,
    combination_id uuid not null,
    visits bigint not null,
    page_views bigint not null,
    events bigint not null,
    seconds bigint not null,
    bounces bigint not null,
    converting_visits bigint not null,
    with_id bigint not null,
    primary key (workspace_id, day, combination_id)
);

create table visitor_day (
    workspace_id uuid not null,
    day date not null,
    combination_id uuid not null,
    visitor uuid not null,
    primary key (workspace_id, day, combination_id, visitor)
);
create index on visitor_day (workspace_id, visitor, day);

create table conversion_day (
    workspace_id uuid not null,
    day date not null,
    combination_id uuid not null,
    kind text not null,
    currency text not null,
    conversions bigint not null,
    revenue numeric not null,
    primary key (workspace_id, day, combination_id, kind, currency)
);

create table click_day (
    workspace_id uuid not null,
    day date not null,
    short_link_id uuid not null,
    kind text not null,
    device text not null,
    clicks bigint not null,
    primary key (workspace_id, day, short_link_id, kind, device)
);
create index on click_day (short_link_id);

create table visitor_link (
    workspace_id uuid not null,
    visitor uuid not null,
    earlier uuid not null,
    primary key (workspace_id, visitor, earlier)
);
create index on visitor_link (workspace_id, earlier);

create table hit_due (
    workspace_id uuid not null,
    visitor uuid not null,
    short_link_id uuid not null,
    from_at timestamptz not null,
    to_at timestamptz not null,
    primary key (workspace_id, visitor, short_link_id)
);

create table visit_due (
    workspace_id uuid not null,
    visitor uuid not null,
    day date not null,
    primary key (workspace_id, visitor, day)
);

create table spool_position (
    spool_id uuid primary key,
    segment bigint not null default 0,
    place bigint not null default 0,
    moved bigint not null default 0,
    refused bigint not null default 0,
    updated_at timestamptz not null default now()
);

-- Day salts of visitor hashes, shared by all processes; destroyed half an hour after their day.
create table salt (
    workspace_id uuid not null,
    day date not null,
    salt bytea not null,
    primary key (workspace_id, day)
);

-- Events that neither spool nor database could take, counted so that the loss is shown.
create table event_loss (
    workspace_id uuid not null,
    day date not null,
    lost bigint not null,
    primary key (workspace_id, day)
);

create table made_month (month date primary key);

create function make_month(wanted date) returns void language plpgsql as $$
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
    foreach part in array array['hit', 'page_event', 'click', 'visit', 'conversion'] loop
        execute format('create table %I partition of %I for values from (%L) to (%L)',
            part || to_char(first, '_YYYYMM'), part,
            to_char(first, 'YYYY-MM-DD') || ' 00:00+00',
            to_char(first + interval '1 month', 'YYYY-MM-DD') || ' 00:00+00');
    end loop;
    insert into made_month values (first);
end $$;

-- Every change of a short link gets a number, in the order of commits, so that a listener notices a gap.
create table slug_change (
    seq bigint generated always as identity primary key,
    short_link_id uuid not null
);

create function tell_slug_change() returns trigger language plpgsql as $$
declare
    newest bigint;
begin
    perform pg_advisory_xact_lock(7001);
    with told as (insert into slug_change (short_link_id) select id from changed returning seq)
    select max(seq) into newest from told;
    if newest is not null then
        perform pg_notify('slug_change', newest::text);
    end if;
    return null;
end $$;

create trigger slug_inserted after insert on short_links
    referencing new table as changed for each statement execute function tell_slug_change();
create trigger slug_updated after update on short_links
    referencing new table as changed for each statement execute function tell_slug_change();

create function tell_place_change() returns trigger language plpgsql as $$
begin
    perform pg_notify('place_change', '');
    return null;
end $$;

create trigger site_changed after insert or update or delete on sites for each statement execute function tell_place_change();
create trigger site_host_changed after insert or update or delete on site_hosts for each statement execute function tell_place_change();
create trigger short_domain_changed after insert or update or delete on short_domains for each statement execute function tell_place_change();

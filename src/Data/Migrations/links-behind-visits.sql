-- The link behind a visit, the convention's own fields of an arrival, and summaries by month.

alter table visit add column link_id uuid;
create index on visit (link_id) where link_id is not null;
alter table conversion add column link_id uuid;
create index on conversion (link_id) where link_id is not null;
alter table combination add column own jsonb;

-- Links made before: keys as LinkKey makes them, for values without placeholders.
update links l set
    page = regexp_replace(lower(split_part(split_part(split_part(l.destination, '://', 2), '?', 1), '#', 1)), '^([^/]+)$', '\1/'),
    tags_key = coalesce((
        select encode(substr(sha256(convert_to(string_agg(v.key || E'\x1f' || v.value || E'\x1e', '' order by v.key collate "C"), 'UTF8')), 1, 16), 'hex')::uuid
        from jsonb_each_text(l.values) v where v.value <> ''), l.tags_key);

create table visit_month (
    workspace_id uuid not null,
    month date not null,
    combination_id uuid not null,
    visits bigint not null,
    page_views bigint not null,
    events bigint not null,
    seconds bigint not null,
    bounces bigint not null,
    converting_visits bigint not null,
    with_id bigint not null,
    primary key (workspace_id, month, combination_id)
);
insert into visit_month
select workspace_id, date_trunc('month', day)::date, combination_id, sum(visits), sum(page_views), sum(events), sum(seconds),
    sum(bounces), sum(converting_visits), sum(with_id)
from visit_day group by 1, 2, 3;

create table conversion_month (
    workspace_id uuid not null,
    month date not null,
    combination_id uuid not null,
    kind text not null,
    currency text not null,
    conversions bigint not null,
    revenue numeric not null,
    primary key (workspace_id, month, combination_id, kind, currency)
);
insert into conversion_month
select workspace_id, date_trunc('month', day)::date, combination_id, kind, currency, sum(conversions), sum(revenue)
from conversion_day group by 1, 2, 3, 4, 5;

create table click_month (
    workspace_id uuid not null,
    month date not null,
    short_link_id uuid not null,
    kind text not null,
    device text not null,
    clicks bigint not null,
    primary key (workspace_id, month, short_link_id, kind, device)
);
create index on click_month (short_link_id);
insert into click_month
select workspace_id, date_trunc('month', day)::date, short_link_id, kind, device, sum(clicks)
from click_day group by 1, 2, 3, 4, 5;

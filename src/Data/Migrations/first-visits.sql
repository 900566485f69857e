-- The first visit known of each visitor with an id.

create table visitor_first (
    workspace_id uuid not null,
    visitor uuid not null,
    visit_id uuid not null,
    started_at timestamptz not null,
    day date not null,
    primary key (workspace_id, visitor)
);

insert into visitor_first (workspace_id, visitor, visit_id, started_at, day)
select distinct on (workspace_id, visitor) workspace_id, visitor, id, started_at, day from visit where has_id
order by workspace_id, visitor, started_at, id;

alter table visit add column is_new boolean not null default false;
update visit v set is_new = true from visitor_first f where f.started_at = v.started_at and f.visit_id = v.id;

-- Segments keep it too, so they are packed anew.
truncate visit_segment;
insert into visit_segment_due (workspace_id, day, hour, changed_at)
select distinct workspace_id, day, hour, now() from visit
on conflict (workspace_id, day, hour) do update set changed_at = excluded.changed_at;

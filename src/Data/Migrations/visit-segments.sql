-- Reports go through the visits themselves, packed column by column, instead of sums by source: any rows, any conditions and distinct
-- visitors then cost about the same.

drop table source_day, source_month, conversion_day, conversion_month;

-- The visits of some hours of one day, hours as the workspace's zone counts them. Never changed, only replaced.
create table visit_segment (
    id bigint generated always as identity primary key,
    workspace_id uuid not null,
    day date not null,
    first_hour smallint not null,
    last_hour smallint not null,
    visits int not null,
    columns bytea not null
);
alter table visit_segment alter column columns set storage external; -- it is small already, and read often
create index on visit_segment (workspace_id, day);
create index on visit_segment (day) where last_hour - first_hour < 23;

-- Hours whose visits changed since they were packed, if they were.
create table visit_segment_due (
    workspace_id uuid not null,
    day date not null,
    hour smallint not null,
    changed_at timestamptz not null,
    primary key (workspace_id, day, hour)
);

drop index visit_workspace_id_day_idx;
create index on visit (workspace_id, day, hour);
create index on conversion (workspace_id, day, hour);

insert into visit_segment_due (workspace_id, day, hour, changed_at)
select distinct workspace_id, day, hour, now() from visit;

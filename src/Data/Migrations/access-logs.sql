-- Views read from access logs, and what keeps the same line from being read twice.

alter table page_event add column from_log boolean not null default false;

-- What is read from files, and what is worked out again at somebody's wish, waits behind what arrives.
alter table visit_due add column later boolean not null default false;
create index on visit_due (id) where not later;

create table log_key (
    workspace_id uuid primary key references workspaces (id) on delete cascade,
    key bytea not null
);

create table log_line (
    workspace_id uuid not null,
    day date not null,
    fingerprint bigint not null,
    times int not null,
    times_here int not null,
    reading_id uuid not null,
    primary key (workspace_id, day, fingerprint)
);

create table log_salt (
    workspace_id uuid not null,
    day date not null,
    salt bytea not null,
    used_at timestamptz not null,
    primary key (workspace_id, day)
);

-- Rows of sheets, written in bulk. A row's link is the one the last run made for it.

create table batch_row (
    batch_id uuid not null references batches (id) on delete cascade,
    number int not null,
    cells text[] not null,
    overrides jsonb,
    outcome text not null default '',
    rules text[] not null default '{}',
    says text,
    url text,
    link_id uuid references links (id) on delete set null,
    run int,
    primary key (batch_id, number)
);
create index on batch_row (link_id) where link_id is not null;
create index on batch_row using gin (rules);

-- Marks of what is due are only ever added, so that whoever brings events never waits for whoever works them out. Uses are
-- added up beside the links for the same reason: a link's row is touched for a moment, when they are folded into it.

alter table hit_due drop constraint hit_due_pkey;
alter table hit_due add column hits int not null default 1, add column id bigint generated always as identity primary key;

alter table visit_due drop constraint visit_due_pkey;
alter table visit_due add column id bigint generated always as identity primary key;

create table link_use_due (
    link_id uuid not null,
    uses int not null,
    last_used_at timestamptz,
    id bigint generated always as identity primary key
);

-- Visits through printed codes: the day's hash beside a site's own id, and the mark on ways of arriving.

alter table page_event add column day_visitor uuid;
create index on page_event (workspace_id, (coalesce(day_visitor, visitor)), at);
alter table combination add column printed boolean not null default false;

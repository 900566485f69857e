-- What a user agent says of model, system and browser. Visits whose raw events are there are worked out again in the background, behind
-- what arrives; older ones stay as they are, "not known".

alter table visit_device add column model text not null default '', add column system text not null default '', add column browser text not null default '';
alter table visit_device drop constraint visit_device_kind_language_key;
alter table visit_device add unique (kind, model, system, browser, language);

insert into visit_due (workspace_id, visitor, day, later)
select distinct v.workspace_id, v.visitor, v.day, true from visit v join workspaces w on w.id = v.workspace_id and v.day >= coalesce(w.raw_from, '-infinity');

-- What was typed behind short links; of what came before it is not known.

alter table hit add column typed text not null default '';
alter table traffic_source add column typed text not null default '';

-- Whether a conversion came signed from the shop's server, counted beside all of them; and what a site's conversion may be worth at most.

alter table conversion add column verified boolean not null default false;
alter table conversion_day add column verified bigint not null default 0;
alter table conversion_month add column verified bigint not null default 0;

-- Which values were told apart, and how many new ones each day brought, so that forged ones cost little.

create function value_hash(value text) returns bigint language sql immutable parallel safe as
    $$ select ('x' || substr(md5(value), 1, 16))::bit(64)::bigint $$;

create table source_value (
    workspace_id uuid not null,
    key text not null,
    hash bigint not null,
    primary key (workspace_id, key, hash)
);

create table source_value_count (
    workspace_id uuid not null,
    key text not null,
    day date not null,
    new_values int not null,
    primary key (workspace_id, key, day)
);

insert into source_value (workspace_id, key, hash)
select s.workspace_id, t.key, value_hash(t.value) from traffic_source s, jsonb_each_text(s.tags) t
union select workspace_id, ':key', value_hash(jsonb_object_keys(tags)) from traffic_source
union select workspace_id, ':referrer', value_hash(referrer_host) from traffic_source where referrer_host <> ''
union select workspace_id, ':page', value_hash(address) from visited_page;

-- When those that are there came is not known; they were told apart from the beginning.
insert into source_value_count (workspace_id, key, day, new_values)
select workspace_id, key, date '0001-01-01', count(*) from source_value group by 1, 2;

-- What the visit itself brought, where its source says "many values" instead.
alter table visit add column tags jsonb, add column referrer_host text;

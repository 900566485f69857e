-- Links counted as they are written. Links with an end are left out: what they are changes by itself as time goes on,
-- and an index of their own finds them quickly. Rows are only ever added here, so that changes of links in the same group
-- do not wait for each other.

create function state_without_end(retired timestamptz, unshortened boolean, waiting boolean, paused boolean) returns text
    language sql immutable parallel safe as $$
    select case when retired is not null then 'retired' when unshortened then 'unshortened' when waiting then 'waiting' when paused then 'paused' else 'live' end
$$;

create function total_new_links() returns trigger language plpgsql as $$
begin
    insert into link_totals (workspace_id, campaign_id, placement_id, state, links, uses)
    select workspace_id, campaign_id, placement_id, state_without_end(retired_at, is_unshortened, is_waiting, paused) as state, count(*), sum(uses)
    from came where ends_at is null and uses_left is null group by workspace_id, campaign_id, placement_id, 4;
    return null;
end $$;

create function total_gone_links() returns trigger language plpgsql as $$
begin
    insert into link_totals (workspace_id, campaign_id, placement_id, state, links, uses)
    select workspace_id, campaign_id, placement_id, state_without_end(retired_at, is_unshortened, is_waiting, paused) as state, -count(*), -sum(uses)
    from went where ends_at is null and uses_left is null
        and workspace_id in (select id from workspaces) -- A workspace that goes takes its totals along.
    group by workspace_id, campaign_id, placement_id, 4;
    return null;
end $$;

create function total_changed_links() returns trigger language plpgsql as $$
begin
    insert into link_totals (workspace_id, campaign_id, placement_id, state, links, uses)
    select workspace_id, campaign_id, placement_id, state_without_end(retired_at, is_unshortened, is_waiting, paused) as state, sum(sign), sum(sign * uses)
    from (select 1 as sign, * from came union all select -1, * from went) both_sides
    where ends_at is null and uses_left is null group by workspace_id, campaign_id, placement_id, 4
    having sum(sign) <> 0 or sum(sign * uses) <> 0;
    return null;
end $$;

create trigger links_totalled_new after insert on links referencing new table as came for each statement execute function total_new_links();
create trigger links_totalled_gone after delete on links referencing old table as went for each statement execute function total_gone_links();
create trigger links_totalled_changed after update on links referencing new table as came old table as went for each statement execute function total_changed_links();

insert into link_totals (workspace_id, campaign_id, placement_id, state, links, uses)
select workspace_id, campaign_id, placement_id, state_without_end(retired_at, is_unshortened, is_waiting, paused) as state, count(*), sum(uses)
from links where ends_at is null and uses_left is null group by workspace_id, campaign_id, placement_id, 4;

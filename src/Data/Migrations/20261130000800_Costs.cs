using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Rates with a first day on placements and links, and costs from files.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261130000800_Costs")]
    public class Costs : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                alter table placements add rates jsonb;
                update placements set rates = jsonb_build_array(jsonb_build_object('from', null, 'basis', 'Click', 'amount', cost_per_click, 'to', null))
                where cost_per_click is not null;
                alter table placements drop column cost_per_click;
                alter table links add rates jsonb;
                create index ix_links_rates on links (workspace_id) where rates is not null;

                create table cost_import (
                    id uuid primary key,
                    workspace_id uuid not null references workspaces on delete cascade,
                    number bigint generated always as identity,
                    name text not null,
                    recipe jsonb not null,
                    lines integer not null,
                    kept integer not null,
                    skipped jsonb not null,
                    totals jsonb not null,
                    first_day date not null,
                    last_day date not null,
                    made_at timestamptz not null,
                    made_by text not null,
                    undone_at timestamptz,
                    undone_by text
                );
                create index ix_cost_import on cost_import (workspace_id, number desc);

                create table cost_target (
                    id integer generated always as identity primary key,
                    workspace_id uuid not null references workspaces on delete cascade,
                    key uuid not null,
                    link_id uuid,
                    campaign_id uuid,
                    placement_id uuid,
                    values jsonb not null,
                    unique (workspace_id, key)
                );

                create table imported_cost (
                    workspace_id uuid not null,
                    import_id uuid not null references cost_import on delete cascade,
                    target_id integer not null references cost_target on delete cascade,
                    day date not null,
                    currency char(3) not null,
                    amount numeric(18, 4) not null,
                    primary key (import_id, target_id, day, currency)
                );
                create index ix_imported_cost on imported_cost (workspace_id, day);
                """
            );

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                drop table imported_cost, cost_target, cost_import;
                alter table links drop column rates;
                alter table placements add cost_per_click numeric(18, 4);
                update placements set cost_per_click = (
                    select (r ->> 'amount')::numeric from jsonb_array_elements(rates) r where r ->> 'basis' = 'Click' limit 1);
                alter table placements drop column rates;
                """
            );
    }
}

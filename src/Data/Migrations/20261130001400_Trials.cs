using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Trials of links, with their own hits and visits beside those that are counted.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261130001400_Trials")]
    public class Trials : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                create table trial (
                    id uuid primary key,
                    workspace_id uuid not null references workspaces (id) on delete cascade,
                    link_id uuid not null references links (id) on delete cascade,
                    token text not null unique,
                    address text not null,
                    started_at timestamptz not null,
                    started_by text not null,
                    ends_at timestamptz not null,
                    trace jsonb not null,
                    page_keys bigint[] not null
                );
                create index on trial (workspace_id, started_at desc);
                create index on trial (link_id, started_at desc);

                create table trial_hit (
                    id uuid primary key,
                    workspace_id uuid not null references workspaces (id) on delete cascade,
                    trial_id uuid not null references trial (id) on delete cascade,
                    at timestamptz not null,
                    visitor uuid not null,
                    kind smallint not null,
                    user_agent text not null,
                    outcome smallint not null,
                    address text
                );
                create index on trial_hit (trial_id, at);
                create index on trial_hit (at);

                create table trial_visit (
                    id uuid primary key,
                    workspace_id uuid not null references workspaces (id) on delete cascade,
                    trial_id uuid not null references trial (id) on delete cascade,
                    hit_id uuid not null,
                    visitor uuid not null,
                    day date not null,
                    started_at timestamptz not null,
                    site_id uuid not null,
                    tags jsonb not null,
                    referrer_host text not null,
                    landing_page text not null
                );
                create index on trial_visit (trial_id);
                create index on trial_visit (workspace_id, visitor, day);
                """
            );

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql("drop table trial_visit; drop table trial_hit; drop table trial;");
    }
}

using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Checks of the pages that links lead to: their runs, what was seen, what was found and since when.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261130001500_PageChecks")]
    public class PageChecks : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                alter table workspaces add column page_check_days integer;

                create table page_check_run (
                    id uuid primary key,
                    workspace_id uuid not null references workspaces (id) on delete cascade,
                    started_at timestamptz not null,
                    started_by text,
                    total integer,
                    done integer not null default 0,
                    finished_at timestamptz,
                    cancelled boolean not null default false,
                    worker uuid,
                    leased_until timestamptz
                );
                create index on page_check_run (workspace_id, started_at desc);
                create index on page_check_run (started_at) where finished_at is null;

                create table page_check (
                    workspace_id uuid not null references workspaces (id) on delete cascade,
                    page text not null,
                    url text not null,
                    links integer not null,
                    due_run uuid,
                    checked_at timestamptz,
                    hops jsonb,
                    title text,
                    primary key (workspace_id, page)
                );
                create index on page_check (due_run) where due_run is not null;

                create table page_finding (
                    workspace_id uuid not null references workspaces (id) on delete cascade,
                    page text not null,
                    rule text not null,
                    severity smallint not null,
                    message text not null,
                    hop integer,
                    first_seen timestamptz not null,
                    last_seen timestamptz not null,
                    gone_at timestamptz,
                    muted_by text,
                    muted_reason text,
                    primary key (workspace_id, page, rule)
                );
                """
            );

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                "drop table page_finding; drop table page_check; drop table page_check_run; alter table workspaces drop column page_check_days;"
            );
    }
}

using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>What strays are assigned to, applied when traffic is read.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261202000100_StrayAssignments")]
    public class StrayAssignments : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                create table stray_assignment (
                    id uuid primary key,
                    workspace_id uuid not null references workspaces (id) on delete cascade,
                    stray text not null,
                    key text,
                    field text,
                    given jsonb not null,
                    meant jsonb not null,
                    assigned_by text not null,
                    assigned_at timestamptz not null
                );
                create unique index on stray_assignment (workspace_id, md5(stray));

                create index visit_tagged_inside on visit (workspace_id, day) where tagged_inside;
                """
            );

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) => migrationBuilder.Sql("drop index visit_tagged_inside; drop table stray_assignment;");
    }
}

using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>That a link has no short links, and small indexes for the states few links are in.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261126013042_LedgerStates")]
    public class LedgerStates : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_short_links_workspace_id",
                table: "short_links");

            migrationBuilder.AddColumn<bool>(
                name: "is_unshortened",
                table: "links",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.Sql("update links l set is_unshortened = true where not exists (select 1 from short_links s where s.link_id = l.id)");

            migrationBuilder.CreateIndex(
                name: "ix_short_links_waiting",
                table: "short_links",
                columns: new[] { "workspace_id", "link_id" },
                filter: "state = 'Waiting'");

            migrationBuilder.CreateIndex(
                name: "ix_links_ending",
                table: "links",
                columns: new[] { "workspace_id", "created_at", "id" },
                filter: "ends_at is not null or uses_left is not null");

            migrationBuilder.CreateIndex(
                name: "ix_links_paused",
                table: "links",
                columns: new[] { "workspace_id", "created_at", "id" },
                filter: "paused");

            migrationBuilder.CreateIndex(
                name: "ix_links_retired",
                table: "links",
                columns: new[] { "workspace_id", "created_at", "id" },
                filter: "retired_at is not null");

            migrationBuilder.CreateIndex(
                name: "ix_links_unshortened",
                table: "links",
                columns: new[] { "workspace_id", "created_at", "id" },
                filter: "is_unshortened");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new NotSupportedException("The column can be worked out again, but going back a version is not offered.");
    }
}

using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Countries of clicks, and pages with the counts of one link.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261125222407_ClickCountries")]
    public class ClickCountries : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("alter table hit add column country text not null default ''; alter table click add column country text not null default ''");

            migrationBuilder.CreateTable(
                name: "result_pages",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    link_id = table.Column<Guid>(type: "uuid", nullable: false),
                    token = table.Column<string>(type: "text", nullable: false),
                    created_by = table.Column<string>(type: "text", nullable: false),
                    created_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    revoked_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_result_pages", x => x.id);
                    table.ForeignKey(
                        name: "fk_result_pages_links_link_id",
                        column: x => x.link_id,
                        principalTable: "links",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_result_pages_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_result_pages_link_id",
                table: "result_pages",
                column: "link_id");

            migrationBuilder.CreateIndex(
                name: "ix_result_pages_token",
                table: "result_pages",
                column: "token",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_result_pages_workspace_id",
                table: "result_pages",
                column: "workspace_id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new NotSupportedException("Countries can not be worked out again: addresses are never kept.");
    }
}

using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Links counted as they are written, and whether a link waits kept with the link.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261126033350_LinkTotals")]
    public class LinkTotals : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "is_waiting",
                table: "links",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.Sql("update links set is_waiting = true where id in (select link_id from short_links where state = 'Waiting')");

            migrationBuilder.DropIndex(
                name: "ix_short_links_waiting",
                table: "short_links");

            migrationBuilder.DropColumn(
                name: "state",
                table: "short_links");

            migrationBuilder.CreateTable(
                name: "link_totals",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    campaign_id = table.Column<Guid>(type: "uuid", nullable: true),
                    placement_id = table.Column<Guid>(type: "uuid", nullable: true),
                    state = table.Column<string>(type: "text", nullable: false),
                    links = table.Column<int>(type: "integer", nullable: false),
                    uses = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_link_totals", x => x.id);
                    table.ForeignKey(
                        name: "fk_link_totals_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_short_links_workspace_id",
                table: "short_links",
                column: "workspace_id");

            migrationBuilder.CreateIndex(
                name: "ix_links_waiting",
                table: "links",
                columns: new[] { "workspace_id", "created_at", "id" },
                filter: "is_waiting");

            migrationBuilder.CreateIndex(
                name: "ix_link_totals_workspace_id",
                table: "link_totals",
                column: "workspace_id");

            using var stream = typeof(LinkTotals).Assembly.GetManifestResourceStream("link-totals.sql");
            using var reader = new StreamReader(stream!);
            migrationBuilder.Sql(reader.ReadToEnd());
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new NotSupportedException("Totals can be counted again, but going back a version is not offered.");
    }
}

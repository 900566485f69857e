using System;
using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Campaigns, placements and their sets, planned links, pages, share texts and hand-overs.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261125141809_Plan")]
    public class Plan : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.RenameColumn(
                name: "tags_itself",
                table: "placements",
                newName: "tags");

            migrationBuilder.AddColumn<List<string>>(
                name: "asks",
                table: "placements",
                type: "text[]",
                nullable: false,
                defaultValueSql: "'{}'");

            migrationBuilder.AddColumn<decimal>(
                name: "fixed_cost",
                table: "placements",
                type: "numeric(18,4)",
                precision: 18,
                scale: 4,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "publisher",
                table: "placements",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "retired_at",
                table: "placements",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "revision",
                table: "placements",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<string>(
                name: "share_form",
                table: "placements",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "tool_writes",
                table: "placements",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'{}'");

            // The column held the keys a tool writes by itself; their values were not known then.
            migrationBuilder.Sql("update placements set tool_writes = coalesce((select jsonb_object_agg(key, '') from unnest(tags) key), '{}'), tags = '{}'");

            migrationBuilder.AddColumn<List<int>>(
                name: "use_days",
                table: "placements",
                type: "integer[]",
                nullable: false,
                defaultValueSql: "'{}'");

            migrationBuilder.AddColumn<string>(
                name: "use_form",
                table: "placements",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "placed_at",
                table: "links",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "placed_by",
                table: "links",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "archived_at",
                table: "campaigns",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<decimal>(
                name: "budget",
                table: "campaigns",
                type: "numeric(18,4)",
                precision: 18,
                scale: 4,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "owner",
                table: "campaigns",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "revision",
                table: "campaigns",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.CreateTable(
                name: "campaign_attributes",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    values = table.Column<List<string>>(type: "text[]", nullable: false),
                    position = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_campaign_attributes", x => x.id);
                    table.ForeignKey(
                        name: "fk_campaign_attributes_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.Sql(
                "insert into campaign_attributes (id, workspace_id, name, \"values\", position) "
                + "select gen_random_uuid(), workspace_id, key, '{}', row_number() over (partition by workspace_id order by key) - 1 "
                + "from (select distinct workspace_id, jsonb_object_keys(attributes) as key from campaigns) used");

            migrationBuilder.CreateTable(
                name: "hand_overs",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    token = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    note = table.Column<string>(type: "text", nullable: true),
                    placement_ids = table.Column<List<Guid>>(type: "uuid[]", nullable: false),
                    campaign_id = table.Column<Guid>(type: "uuid", nullable: true),
                    created_by = table.Column<string>(type: "text", nullable: false),
                    created_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    revoked_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    openings = table.Column<int>(type: "integer", nullable: false),
                    first_opened_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    last_opened_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_hand_overs", x => x.id);
                    table.ForeignKey(
                        name: "fk_hand_overs_campaigns_campaign_id",
                        column: x => x.campaign_id,
                        principalTable: "campaigns",
                        principalColumn: "id");
                    table.ForeignKey(
                        name: "fk_hand_overs_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "page_texts",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    campaign_id = table.Column<Guid>(type: "uuid", nullable: true),
                    page = table.Column<string>(type: "text", nullable: false),
                    text = table.Column<string>(type: "text", nullable: false),
                    written_by = table.Column<string>(type: "text", nullable: false),
                    written_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    revision = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_page_texts", x => x.id);
                    table.ForeignKey(
                        name: "fk_page_texts_campaigns_campaign_id",
                        column: x => x.campaign_id,
                        principalTable: "campaigns",
                        principalColumn: "id");
                    table.ForeignKey(
                        name: "fk_page_texts_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "placement_sets",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    placement_ids = table.Column<List<Guid>>(type: "uuid[]", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_placement_sets", x => x.id);
                    table.ForeignKey(
                        name: "fk_placement_sets_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "planned_links",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    campaign_id = table.Column<Guid>(type: "uuid", nullable: false),
                    page = table.Column<string>(type: "text", nullable: false),
                    placement_id = table.Column<Guid>(type: "uuid", nullable: true),
                    content = table.Column<string>(type: "text", nullable: true),
                    owner = table.Column<string>(type: "text", nullable: true),
                    due_on = table.Column<DateOnly>(type: "date", nullable: true),
                    note = table.Column<string>(type: "text", nullable: true),
                    position = table.Column<int>(type: "integer", nullable: false),
                    link_id = table.Column<Guid>(type: "uuid", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_planned_links", x => x.id);
                    table.ForeignKey(
                        name: "fk_planned_links_campaigns_campaign_id",
                        column: x => x.campaign_id,
                        principalTable: "campaigns",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_planned_links_links_link_id",
                        column: x => x.link_id,
                        principalTable: "links",
                        principalColumn: "id",
                        onDelete: ReferentialAction.SetNull);
                    table.ForeignKey(
                        name: "fk_planned_links_placements_placement_id",
                        column: x => x.placement_id,
                        principalTable: "placements",
                        principalColumn: "id",
                        onDelete: ReferentialAction.SetNull);
                    table.ForeignKey(
                        name: "fk_planned_links_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "site_pages",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    site_id = table.Column<Guid>(type: "uuid", nullable: false),
                    address = table.Column<string>(type: "text", nullable: false),
                    title = table.Column<string>(type: "text", nullable: true),
                    seen_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_site_pages", x => x.id);
                    table.ForeignKey(
                        name: "fk_site_pages_sites_site_id",
                        column: x => x.site_id,
                        principalTable: "sites",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_site_pages_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_campaign_attributes_workspace_id_name",
                table: "campaign_attributes",
                columns: new[] { "workspace_id", "name" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_hand_overs_campaign_id",
                table: "hand_overs",
                column: "campaign_id");

            migrationBuilder.CreateIndex(
                name: "ix_hand_overs_token",
                table: "hand_overs",
                column: "token",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_hand_overs_workspace_id",
                table: "hand_overs",
                column: "workspace_id");

            migrationBuilder.CreateIndex(
                name: "ix_page_texts_campaign_id",
                table: "page_texts",
                column: "campaign_id");

            migrationBuilder.CreateIndex(
                name: "ix_page_texts_workspace_id_campaign_id_page",
                table: "page_texts",
                columns: new[] { "workspace_id", "campaign_id", "page" },
                unique: true)
                .Annotation("Npgsql:NullsDistinct", false);

            migrationBuilder.CreateIndex(
                name: "ix_placement_sets_workspace_id_name",
                table: "placement_sets",
                columns: new[] { "workspace_id", "name" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_planned_links_campaign_id_position",
                table: "planned_links",
                columns: new[] { "campaign_id", "position" });

            migrationBuilder.CreateIndex(
                name: "ix_planned_links_link_id",
                table: "planned_links",
                column: "link_id");

            migrationBuilder.CreateIndex(
                name: "ix_planned_links_placement_id",
                table: "planned_links",
                column: "placement_id");

            migrationBuilder.CreateIndex(
                name: "ix_planned_links_workspace_id",
                table: "planned_links",
                column: "workspace_id");

            migrationBuilder.CreateIndex(
                name: "ix_site_pages_site_id",
                table: "site_pages",
                column: "site_id");

            migrationBuilder.CreateIndex(
                name: "ix_site_pages_workspace_id_address",
                table: "site_pages",
                columns: new[] { "workspace_id", "address" },
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new System.NotSupportedException("What was planned is never dropped by going back a version.");
    }
}

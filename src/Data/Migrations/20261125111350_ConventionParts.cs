using System;
using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(BeaconDb))]
    [Migration("20261125111350_ConventionParts")]
    public class ConventionParts : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "sealing_secret",
                table: "workspaces",
                type: "text",
                nullable: false,
                defaultValue: "");

            // Random, as a new workspace's is: gen_random_uuid draws from the system's strong source.
            migrationBuilder.Sql(
                "update workspaces set sealing_secret = encode(decode(replace(gen_random_uuid()::text || gen_random_uuid()::text, '-', ''), 'hex'), 'base64')");

            migrationBuilder.AddColumn<List<string>>(
                name: "tags_itself",
                table: "placements",
                type: "text[]",
                nullable: false,
                defaultValueSql: "'{}'");

            migrationBuilder.AddColumn<string>(
                name: "date_form",
                table: "field_row",
                type: "character varying(40)",
                maxLength: 40,
                nullable: false,
                defaultValue: "Month");

            migrationBuilder.AddColumn<string>(
                name: "fixed",
                table: "field_row",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "kind",
                table: "field_row",
                type: "character varying(40)",
                maxLength: 40,
                nullable: false,
                defaultValue: "Text");

            migrationBuilder.AddColumn<string>(
                name: "means",
                table: "field_row",
                type: "character varying(40)",
                maxLength: 40,
                nullable: false,
                defaultValue: "ByKey");

            migrationBuilder.AddColumn<string>(
                name: "pattern",
                table: "field_row",
                type: "jsonb",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "presence_in",
                table: "field_row",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'{}'");

            migrationBuilder.AddColumn<string>(
                name: "settings",
                table: "convention_versions",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'{}'");

            migrationBuilder.AddColumn<string>(
                name: "attributes",
                table: "campaigns",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'{}'");

            migrationBuilder.CreateTable(
                name: "sealed_links",
                columns: table => new
                {
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    code = table.Column<string>(type: "text", nullable: false),
                    values = table.Column<string>(type: "jsonb", nullable: false),
                    created_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_sealed_links", x => new { x.workspace_id, x.code });
                    table.ForeignKey(
                        name: "fk_sealed_links_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "sealed_links");

            migrationBuilder.DropColumn(
                name: "sealing_secret",
                table: "workspaces");

            migrationBuilder.DropColumn(
                name: "tags_itself",
                table: "placements");

            migrationBuilder.DropColumn(
                name: "date_form",
                table: "field_row");

            migrationBuilder.DropColumn(
                name: "fixed",
                table: "field_row");

            migrationBuilder.DropColumn(
                name: "kind",
                table: "field_row");

            migrationBuilder.DropColumn(
                name: "means",
                table: "field_row");

            migrationBuilder.DropColumn(
                name: "pattern",
                table: "field_row");

            migrationBuilder.DropColumn(
                name: "presence_in",
                table: "field_row");

            migrationBuilder.DropColumn(
                name: "settings",
                table: "convention_versions");

            migrationBuilder.DropColumn(
                name: "attributes",
                table: "campaigns");
        }
    }
}

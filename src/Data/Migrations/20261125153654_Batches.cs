using System;
using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Sheets that were brought, their rows, runs and saved recipes.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261125153654_Batches")]
    public class Batches : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "batches",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    file = table.Column<byte[]>(type: "bytea", nullable: false),
                    is_workbook = table.Column<bool>(type: "boolean", nullable: false),
                    encoding = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    separator = table.Column<string>(type: "text", nullable: false),
                    sheet = table.Column<string>(type: "text", nullable: true),
                    heading_row = table.Column<int>(type: "integer", nullable: false),
                    headings = table.Column<List<string>>(type: "text[]", nullable: false),
                    recipe = table.Column<string>(type: "jsonb", nullable: false),
                    is_guess = table.Column<bool>(type: "boolean", nullable: false),
                    total = table.Column<int>(type: "integer", nullable: false),
                    created_by = table.Column<string>(type: "text", nullable: false),
                    created_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    revision = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_batches", x => x.id);
                    table.ForeignKey(
                        name: "fk_batches_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "saved_recipes",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    headings = table.Column<List<string>>(type: "text[]", nullable: false),
                    recipe = table.Column<string>(type: "jsonb", nullable: false),
                    saved_by = table.Column<string>(type: "text", nullable: false),
                    saved_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_saved_recipes", x => x.id);
                    table.ForeignKey(
                        name: "fk_saved_recipes_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "batch_runs",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    batch_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    recipe = table.Column<string>(type: "jsonb", nullable: false),
                    state = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    done = table.Column<int>(type: "integer", nullable: false),
                    total = table.Column<int>(type: "integer", nullable: false),
                    made = table.Column<int>(type: "integer", nullable: false),
                    changed = table.Column<int>(type: "integer", nullable: false),
                    unchanged = table.Column<int>(type: "integer", nullable: false),
                    stopped = table.Column<int>(type: "integer", nullable: false),
                    problem = table.Column<string>(type: "text", nullable: true),
                    started_by = table.Column<string>(type: "text", nullable: false),
                    started_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    ended_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_batch_runs", x => x.id);
                    table.ForeignKey(
                        name: "fk_batch_runs_batches_batch_id",
                        column: x => x.batch_id,
                        principalTable: "batches",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_batch_runs_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_batch_runs_batch_id_number",
                table: "batch_runs",
                columns: new[] { "batch_id", "number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_batch_runs_state",
                table: "batch_runs",
                column: "state");

            migrationBuilder.CreateIndex(
                name: "ix_batch_runs_workspace_id",
                table: "batch_runs",
                column: "workspace_id");

            migrationBuilder.CreateIndex(
                name: "ix_batches_workspace_id_created_at",
                table: "batches",
                columns: new[] { "workspace_id", "created_at" });

            migrationBuilder.CreateIndex(
                name: "ix_saved_recipes_workspace_id_name",
                table: "saved_recipes",
                columns: new[] { "workspace_id", "name" },
                unique: true);

            using var stream = typeof(Batches).Assembly.GetManifestResourceStream("batches.sql");
            using var reader = new System.IO.StreamReader(stream);
            migrationBuilder.Sql(reader.ReadToEnd());
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new System.NotSupportedException("Sheets that were brought are never dropped by going back a version.");
    }
}

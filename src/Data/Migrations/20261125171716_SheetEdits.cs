using System;
using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Edits of sheets that can be taken back, the sheets of a workbook, and files that follow each other.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261125171716_SheetEdits")]
    public class SheetEdits : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<Guid>(
                name: "follows",
                table: "batches",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<List<string>>(
                name: "sheets",
                table: "batches",
                type: "text[]",
                nullable: false,
                defaultValueSql: "'{}'");

            migrationBuilder.CreateTable(
                name: "sheet_edits",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    batch_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    says = table.Column<string>(type: "text", nullable: false),
                    before = table.Column<string>(type: "jsonb", nullable: false),
                    after = table.Column<string>(type: "jsonb", nullable: false),
                    taken_back = table.Column<bool>(type: "boolean", nullable: false),
                    by = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_sheet_edits", x => x.id);
                    table.ForeignKey(
                        name: "fk_sheet_edits_batches_batch_id",
                        column: x => x.batch_id,
                        principalTable: "batches",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_sheet_edits_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_batches_follows",
                table: "batches",
                column: "follows");

            migrationBuilder.CreateIndex(
                name: "ix_sheet_edits_batch_id_number",
                table: "sheet_edits",
                columns: new[] { "batch_id", "number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_sheet_edits_workspace_id",
                table: "sheet_edits",
                column: "workspace_id");

            migrationBuilder.AddForeignKey(
                name: "fk_batches_batches_follows",
                table: "batches",
                column: "follows",
                principalTable: "batches",
                principalColumn: "id",
                onDelete: ReferentialAction.SetNull);

            // Numbers in cells in the order of numbers, whatever the language of the server (UTS #35, numeric ordering).
            migrationBuilder.Sql("create collation natural_order (provider = icu, locale = 'und-u-kn-true')");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new NotSupportedException("What was typed into sheets is never dropped by going back a version.");
    }
}

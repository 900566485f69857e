using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Access logs that are read, and what keeps their lines from being read twice.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261129235000_AccessLogs")]
    public class AccessLogs : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            using var stream = typeof(AccessLogs).Assembly.GetManifestResourceStream("access-logs.sql");
            using var reader = new System.IO.StreamReader(stream);
            migrationBuilder.Sql(reader.ReadToEnd());
            migrationBuilder.CreateTable(
                name: "log_readings",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    site_id = table.Column<Guid>(type: "uuid", nullable: false),
                    file_name = table.Column<string>(type: "text", nullable: false),
                    octets = table.Column<long>(type: "bigint", nullable: false),
                    octets_read = table.Column<long>(type: "bigint", nullable: false),
                    position = table.Column<long>(type: "bigint", nullable: false),
                    lines = table.Column<long>(type: "bigint", nullable: false),
                    kept = table.Column<long>(type: "bigint", nullable: false),
                    skipped = table.Column<string>(type: "jsonb", nullable: false),
                    leaves_measured_days = table.Column<bool>(type: "boolean", nullable: false),
                    first_day = table.Column<DateOnly>(type: "date", nullable: true),
                    last_day = table.Column<DateOnly>(type: "date", nullable: true),
                    state = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    fault = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    added_by = table.Column<string>(type: "text", nullable: false),
                    added_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    ended_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_log_readings", x => x.id);
                    table.ForeignKey(
                        name: "fk_log_readings_sites_site_id",
                        column: x => x.site_id,
                        principalTable: "sites",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                    table.ForeignKey(
                        name: "fk_log_readings_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );
            migrationBuilder.CreateIndex(
                name: "ix_log_readings_site_id",
                table: "log_readings",
                column: "site_id"
            );
            migrationBuilder.CreateIndex(
                name: "ix_log_readings_workspace_id_added_at",
                table: "log_readings",
                columns: new[] { "workspace_id", "added_at" }
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new NotSupportedException("Raw events are never dropped by going back a version.");
    }
}

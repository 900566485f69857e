using System;
using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>HTML mails with what is written into them, and audits of links in use.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261125175155_MailsAndAudits")]
    public class MailsAndAudits : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "audits",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    right = table.Column<int>(type: "integer", nullable: false),
                    mended = table.Column<int>(type: "integer", nullable: false),
                    stuck = table.Column<int>(type: "integer", nullable: false),
                    pages = table.Column<int>(type: "integer", nullable: true),
                    problems = table.Column<List<string>>(type: "text[]", nullable: false),
                    convention_version = table.Column<int>(type: "integer", nullable: false),
                    created_by = table.Column<string>(type: "text", nullable: false),
                    created_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_audits", x => x.id);
                    table.ForeignKey(
                        name: "fk_audits_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "mails",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    file = table.Column<byte[]>(type: "bytea", nullable: false),
                    subject = table.Column<string>(type: "text", nullable: true),
                    placement = table.Column<string>(type: "text", nullable: true),
                    campaign = table.Column<string>(type: "text", nullable: true),
                    content_by = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    shorten = table.Column<bool>(type: "boolean", nullable: false),
                    typed = table.Column<string>(type: "jsonb", nullable: false),
                    skipped = table.Column<List<int>>(type: "integer[]", nullable: false),
                    written = table.Column<string>(type: "jsonb", nullable: false),
                    made_by = table.Column<string>(type: "text", nullable: true),
                    made_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    created_by = table.Column<string>(type: "text", nullable: false),
                    created_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    revision = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_mails", x => x.id);
                    table.ForeignKey(
                        name: "fk_mails_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "audited_links",
                columns: table => new
                {
                    audit_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    link = table.Column<string>(type: "text", nullable: false),
                    found_on = table.Column<string>(type: "text", nullable: true),
                    state = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    mended_url = table.Column<string>(type: "text", nullable: true),
                    rules = table.Column<List<string>>(type: "text[]", nullable: false),
                    says = table.Column<List<string>>(type: "text[]", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_audited_links", x => new { x.audit_id, x.number });
                    table.ForeignKey(
                        name: "fk_audited_links_audits_audit_id",
                        column: x => x.audit_id,
                        principalTable: "audits",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_audited_links_rules",
                table: "audited_links",
                column: "rules")
                .Annotation("Npgsql:IndexMethod", "gin");

            migrationBuilder.CreateIndex(
                name: "ix_audits_workspace_id_created_at",
                table: "audits",
                columns: new[] { "workspace_id", "created_at" });

            migrationBuilder.CreateIndex(
                name: "ix_mails_workspace_id_created_at",
                table: "mails",
                columns: new[] { "workspace_id", "created_at" });

            // Rows are looked up by rule within one sheet, which its key does well enough; keeping this index cost every run.
            migrationBuilder.Sql("drop index batch_row_rules_idx");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new NotSupportedException("Mails and audits are never dropped by going back a version.");
    }
}

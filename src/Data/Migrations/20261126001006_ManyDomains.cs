using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Several short domains of a workspace, hosts that are never allowed, topics of links, and entries of history that belong together.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261126001006_ManyDomains")]
    public class ManyDomains : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_short_domains_workspace_id",
                table: "short_domains");

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "checked_at",
                table: "short_domains",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "is_first",
                table: "short_domains",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "problem",
                table: "short_domains",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "proof",
                table: "short_domains",
                type: "text",
                nullable: false,
                defaultValueSql: "md5(gen_random_uuid()::text)");

            migrationBuilder.AddColumn<string[]>(
                name: "topics",
                table: "links",
                type: "text[]",
                nullable: false,
                defaultValueSql: "'{}'");

            migrationBuilder.AddColumn<Guid>(
                name: "change_id",
                table: "change_log",
                type: "uuid",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "refused_hosts",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    workspace_id = table.Column<Guid>(type: "uuid", nullable: false),
                    host = table.Column<string>(type: "text", nullable: false),
                    refused_by = table.Column<string>(type: "text", nullable: false),
                    refused_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_refused_hosts", x => x.id);
                    table.ForeignKey(
                        name: "fk_refused_hosts_workspaces_workspace_id",
                        column: x => x.workspace_id,
                        principalTable: "workspaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            // The one there was is the one links are made on.
            migrationBuilder.Sql("update short_domains d set is_first = not exists (select 1 from short_domains e where e.workspace_id = d.workspace_id and e.id < d.id)");

            migrationBuilder.CreateIndex(
                name: "ix_short_domains_first",
                table: "short_domains",
                column: "workspace_id",
                unique: true,
                filter: "is_first");

            migrationBuilder.CreateIndex(
                name: "ix_links_topics",
                table: "links",
                column: "topics",
                filter: "topics <> '{}'")
                .Annotation("Npgsql:IndexMethod", "gin");

            migrationBuilder.CreateIndex(
                name: "ix_change_log_change_id",
                table: "change_log",
                column: "change_id",
                filter: "change_id is not null");

            migrationBuilder.CreateIndex(
                name: "ix_refused_hosts_workspace_id_host",
                table: "refused_hosts",
                columns: new[] { "workspace_id", "host" },
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new NotSupportedException("Short links on later domains, topics and what was refused would be lost by going back a version.");
    }
}

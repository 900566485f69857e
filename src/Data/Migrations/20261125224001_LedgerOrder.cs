using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Uses of links kept beside them, links put away, and indexes for searching and ordering them.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261125224001_LedgerOrder")]
    public class LedgerOrder : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AlterDatabase()
                .Annotation("Npgsql:PostgresExtension:pg_trgm", ",,");

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "last_used_at",
                table: "links",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "retired_at",
                table: "links",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "uses",
                table: "links",
                type: "bigint",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.CreateIndex(
                name: "ix_short_links_slug_parts",
                table: "short_links",
                column: "slug")
                .Annotation("Npgsql:IndexMethod", "gin")
                .Annotation("Npgsql:IndexOperators", new[] { "gin_trgm_ops" });

            migrationBuilder.CreateIndex(
                name: "ix_links_title_parts",
                table: "links",
                column: "title")
                .Annotation("Npgsql:IndexMethod", "gin")
                .Annotation("Npgsql:IndexOperators", new[] { "gin_trgm_ops" });

            migrationBuilder.CreateIndex(
                name: "ix_links_url_parts",
                table: "links",
                column: "url")
                .Annotation("Npgsql:IndexMethod", "gin")
                .Annotation("Npgsql:IndexOperators", new[] { "gin_trgm_ops" });

            migrationBuilder.CreateIndex(
                name: "ix_links_workspace_id_last_used_at_id",
                table: "links",
                columns: new[] { "workspace_id", "last_used_at", "id" });

            migrationBuilder.CreateIndex(
                name: "ix_links_workspace_id_title_id",
                table: "links",
                columns: new[] { "workspace_id", "title", "id" });

            migrationBuilder.CreateIndex(
                name: "ix_links_workspace_id_uses_id",
                table: "links",
                columns: new[] { "workspace_id", "uses", "id" });

            migrationBuilder.Sql(
                """
                update links l set uses = c.uses, last_used_at = c.last
                from (select s.link_id, count(*) as uses, max(c.at) as last from click c join short_links s on s.id = c.short_link_id where c.kind = 'Person' group by 1) c
                where l.id = c.link_id
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new NotSupportedException("Uses are worked out again, but a link that was put away is not brought back by going back a version.");
    }
}

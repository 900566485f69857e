using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(BeaconDb))]
    [Migration("20261125105142_LinksBehindVisits")]
    public class LinksBehindVisits : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "page",
                table: "links",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<Guid>(
                name: "tags_key",
                table: "links",
                type: "uuid",
                nullable: false,
                defaultValue: new Guid("00000000-0000-0000-0000-000000000000"));

            migrationBuilder.CreateIndex(
                name: "ix_links_workspace_id_tags_key_created_at",
                table: "links",
                columns: new[] { "workspace_id", "tags_key", "created_at" });

            migrationBuilder.CreateIndex(
                name: "ix_links_workspace_id_tags_key_page_created_at",
                table: "links",
                columns: new[] { "workspace_id", "tags_key", "page", "created_at" });

            using var stream = typeof(LinksBehindVisits).Assembly.GetManifestResourceStream("links-behind-visits.sql");
            using var reader = new System.IO.StreamReader(stream);
            migrationBuilder.Sql(reader.ReadToEnd());
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new NotSupportedException("What was worked out by month would be lost by going back a version.");
    }
}

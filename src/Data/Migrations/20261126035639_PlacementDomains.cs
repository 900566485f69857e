using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>The short domain a placement's links are made on.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261126035639_PlacementDomains")]
    public class PlacementDomains : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<Guid>(
                name: "short_domain_id",
                table: "placements",
                type: "uuid",
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "ix_placements_short_domain_id",
                table: "placements",
                column: "short_domain_id");

            migrationBuilder.AddForeignKey(
                name: "fk_placements_short_domains_short_domain_id",
                table: "placements",
                column: "short_domain_id",
                principalTable: "short_domains",
                principalColumn: "id",
                onDelete: ReferentialAction.SetNull);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new NotSupportedException("The column can be dropped by hand, but going back a version is not offered.");
    }
}

using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Where short links lead now: another page, a pause, an end with its fallback.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261125190305_LinkRoutes")]
    public class LinkRoutes : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "ends_at",
                table: "links",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "fallback",
                table: "links",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "leads_to",
                table: "links",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "paused",
                table: "links",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<int>(
                name: "route_revision",
                table: "links",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "routed_at",
                table: "links",
                type: "timestamp with time zone",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new NotSupportedException("Where short links lead is never forgotten by going back a version.");
    }
}

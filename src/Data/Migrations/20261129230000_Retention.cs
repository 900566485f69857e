using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>How long raw rows are kept, and since when they are complete.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261129230000_Retention")]
    public class RetentionOfRaw : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(name: "raw_months", table: "workspaces", type: "integer", nullable: false, defaultValue: 25);
            migrationBuilder.AddColumn<DateOnly>(name: "raw_from", table: "workspaces", type: "date", nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(name: "raw_months", table: "workspaces");
            migrationBuilder.DropColumn(name: "raw_from", table: "workspaces");
        }
    }
}

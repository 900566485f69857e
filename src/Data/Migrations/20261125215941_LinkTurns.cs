using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Other pages for short links, ends by count, and what becomes of tags and parameters.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261125215941_LinkTurns")]
    public class LinkTurns : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "carries",
                table: "links",
                type: "character varying(40)",
                maxLength: 40,
                nullable: false,
                defaultValue: "Nothing");

            migrationBuilder.AddColumn<int>(
                name: "most_uses",
                table: "links",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "permanent",
                table: "links",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "turns",
                table: "links",
                type: "jsonb",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "uses_left",
                table: "links",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "without_tags",
                table: "links",
                type: "boolean",
                nullable: false,
                defaultValue: false);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new NotSupportedException("Where short links lead is never forgotten by going back a version.");
    }
}

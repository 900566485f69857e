using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>What the pages of a site may learn of where their visitor came from: nothing, unless an owner picks fields.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261130001000_SourceFields")]
    public class SourceFields : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql("alter table sites add source_fields text[] not null default '{}'");

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) => migrationBuilder.Sql("alter table sites drop source_fields");
    }
}

using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Rows of a run that got a link which existed already.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261129071000_UsedLinks")]
    public class UsedLinks : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql("alter table batch_runs add column used integer not null default 0");

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql("alter table batch_runs drop column used");
    }
}

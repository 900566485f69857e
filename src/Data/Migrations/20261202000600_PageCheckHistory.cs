using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>What each check of pages came to.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261202000600_PageCheckHistory")]
    public class PageCheckHistory : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                "alter table page_check_run add column found integer, add column appeared integer, add column gone integer;"
            );

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql("alter table page_check_run drop column found, drop column appeared, drop column gone;");
    }
}

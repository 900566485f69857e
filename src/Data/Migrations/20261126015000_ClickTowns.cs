using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Region and town of clicks, where a file of addresses that knows them was configured.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261126015000_ClickTowns")]
    public class ClickTowns : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            foreach (string table in new[] { "hit", "click" })
            {
                migrationBuilder.Sql($"alter table {table} add column region text not null default '', add column city text not null default ''");
            }
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new NotSupportedException("Where clicks came from can't be worked out again, for no address is kept.");
    }
}

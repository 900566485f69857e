using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>The page a hit's answer led to; hits of before know only what their link led to when it was made.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261129040000_HitPages")]
    public class HitPages : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) => migrationBuilder.Sql("alter table hit add column page_key bigint not null default 0");

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) => migrationBuilder.Sql("alter table hit drop column page_key");
    }
}

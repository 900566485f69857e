using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>What a campaign advertises, so that what was bought of it is told from everything else.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261130001100_AdvertisedProducts")]
    public class AdvertisedProducts : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql("alter table campaigns add advertises text[] not null default '{}'");

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) => migrationBuilder.Sql("alter table campaigns drop advertises");
    }
}

using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Where towns lie, for the map.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261130000700_TownPoints")]
    public class TownPoints : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                create table town_point (
                    country text not null,
                    town text not null,
                    region text not null,
                    latitude double precision not null,
                    longitude double precision not null,
                    primary key (country, town, region)
                );
                """
            );

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) => migrationBuilder.Sql("drop table town_point;");
    }
}

using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Visits with their raw sources, pages, places and devices.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261129160000_TrafficSources")]
    public class TrafficSources : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            using var stream = typeof(TrafficSources).Assembly.GetManifestResourceStream("traffic-sources.sql");
            using var reader = new System.IO.StreamReader(stream);
            migrationBuilder.Sql(reader.ReadToEnd());
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new System.NotSupportedException("Raw events are never dropped by going back a version.");
    }
}

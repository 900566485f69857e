using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Raw events and what is worked out from them: partitioned tables, functions and triggers.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261124050054_Traffic")]
    public class Traffic : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            using var stream = typeof(Traffic).Assembly.GetManifestResourceStream("traffic.sql");
            using var reader = new System.IO.StreamReader(stream);
            migrationBuilder.Sql(reader.ReadToEnd());
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new System.NotSupportedException("Raw events are never dropped by going back a version.");
    }
}

using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Verified conversions, and the most a site's conversion may be worth.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261128213500_Measuring")]
    public class Measuring : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<decimal>(name: "largest_value", table: "sites", type: "numeric(18,4)", precision: 18, scale: 4, nullable: false, defaultValue: 1_000_000m);
            using var stream = typeof(Measuring).Assembly.GetManifestResourceStream("measuring.sql");
            using var reader = new System.IO.StreamReader(stream);
            migrationBuilder.Sql(reader.ReadToEnd());
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new System.NotSupportedException("Raw events are never dropped by going back a version.");
    }
}

using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Visits of a day, column by column, in place of sums by day and month.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261129190000_VisitSegments")]
    public class VisitSegments : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            using var stream = typeof(VisitSegments).Assembly.GetManifestResourceStream("visit-segments.sql");
            using var reader = new System.IO.StreamReader(stream);
            migrationBuilder.Sql(reader.ReadToEnd());
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new System.NotSupportedException("Raw events are never dropped by going back a version.");
    }
}

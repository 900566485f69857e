using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Which values of tags, referrers and pages are told apart.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261129200000_SourceValues")]
    public class SourceValues : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            using var stream = typeof(SourceValues).Assembly.GetManifestResourceStream("source-values.sql");
            using var reader = new System.IO.StreamReader(stream);
            migrationBuilder.Sql(reader.ReadToEnd());
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new System.NotSupportedException("Raw events are never dropped by going back a version.");
    }
}

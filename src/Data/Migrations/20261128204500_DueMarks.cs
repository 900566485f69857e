using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Marks of what is due that are only added to.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261128204500_DueMarks")]
    public class DueMarks : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            using var stream = typeof(DueMarks).Assembly.GetManifestResourceStream("due-marks.sql");
            using var reader = new System.IO.StreamReader(stream);
            migrationBuilder.Sql(reader.ReadToEnd());
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new System.NotSupportedException("Marks are worked off, not converted back; restore the database as it was before instead.");
    }
}

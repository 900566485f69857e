using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>What was typed behind short links.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261129235900_TypedBehindLinks")]
    public class TypedBehindLinks : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            using var stream = typeof(TypedBehindLinks).Assembly.GetManifestResourceStream("typed.sql");
            using var reader = new System.IO.StreamReader(stream);
            migrationBuilder.Sql(reader.ReadToEnd());
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new System.NotSupportedException("Raw events are never dropped by going back a version.");
    }
}

using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>How a sheet of text ends its rows and quotes its cells.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261129050000_TextForms")]
    public class TextForms : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(@"alter table batches add column line_end text not null default E'\r\n', add column all_quoted boolean not null default false");

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql("alter table batches drop column line_end, drop column all_quoted");
    }
}

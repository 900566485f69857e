using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Checks of the pages of one sheet's links.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261202000500_BatchPageChecks")]
    public class BatchPageChecks : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql("alter table page_check_run add column batch_id uuid references batches (id) on delete cascade;");

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql("alter table page_check_run drop column batch_id;");
    }
}

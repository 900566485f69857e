using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>A placement's default values, and the rule about them, under the name people know them by.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261129140000_PlacementDefaults")]
    public partial class PlacementDefaults : Migration
    {
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.RenameColumn("standing", "placements", "defaults");
            RenameRule(migrationBuilder, "standing-unfilled", "default-unfilled");
        }

        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.RenameColumn("defaults", "placements", "standing");
            RenameRule(migrationBuilder, "default-unfilled", "standing-unfilled");
        }

        /// <summary>Rules are named in what a convention says about their severity, and in what a review found.</summary>
        private static void RenameRule(MigrationBuilder migrationBuilder, string old, string name)
        {
            migrationBuilder.Sql($"update convention_versions set settings = replace(settings::text, '\"{old}\"', '\"{name}\"')::jsonb where settings::text like '%\"{old}\"%'");
            migrationBuilder.Sql($"update reviewed_links set rules = array_replace(rules, '{old}', '{name}') where rules @> array['{old}']");
        }
    }
}

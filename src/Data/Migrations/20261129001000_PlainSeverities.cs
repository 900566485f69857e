using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Severities in conventions are called error, warning and info.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261129001000_PlainSeverities")]
    public class PlainSeverities : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) => migrationBuilder.Sql(
            """
            update convention_versions v
            set settings = jsonb_set(v.settings, '{severities}', (
                select jsonb_object_agg(s.key, case s.value when 'stop' then 'error' when 'look' then 'warning' when 'note' then 'info' else s.value end)
                from jsonb_each_text(v.settings -> 'severities') s))
            where jsonb_typeof(v.settings -> 'severities') = 'object' and v.settings -> 'severities' <> '{}'
            """);

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new System.NotSupportedException("Versions of a convention are never rewritten backwards.");
    }
}

using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>
    /// Where each visitor with an id came from first, and what refunds need of their order's visit to be credited as it. Visits packed before
    /// say no more than the hour they began in.
    /// </summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261130001200_FirstSources")]
    public class FirstSources : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                alter table visitor_first add source_id integer not null default 0;
                update visitor_first f set source_id = v.source_id from visit v where v.started_at = f.started_at and v.id = f.visit_id;
                alter table visitor_first alter source_id drop default;

                alter table visit add first_source_id integer;
                update visit v set first_source_id = f.source_id from visitor_first f
                where v.has_id and f.workspace_id = v.workspace_id and f.visitor = v.visitor;

                insert into visit_segment_due (workspace_id, day, hour, changed_at)
                select distinct workspace_id, day, hour, now() from visit where first_source_id is not null
                on conflict (workspace_id, day, hour) do update set changed_at = excluded.changed_at;

                alter table refund add visitor uuid, add visit_started_at timestamptz, add first_source_id integer;
                """
            );

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                alter table refund drop visitor, drop visit_started_at, drop first_source_id;
                alter table visit drop first_source_id;
                alter table visitor_first drop source_id
                """
            );
    }
}

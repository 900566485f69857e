using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Sites that owners keep themselves: with when they were measured last, and what visitors may ask for.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261130000300_SitesOfAnOwner")]
    public class SitesOfAnOwner : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                alter table sites
                    add column honours_opt_out boolean not null default false,
                    add column stopped_at timestamp with time zone,
                    add column last_measured_at timestamp with time zone,
                    add column last_measured_page text,
                    add column foreign_host text,
                    add column foreign_at timestamp with time zone;
                update sites s set last_measured_at = l.at
                from (select t.site_id, max(v.ended_at) as at from visit v join traffic_source t on t.id = v.source_id group by 1) l
                where l.site_id = s.id;
                """
            );

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                alter table sites
                    drop column honours_opt_out,
                    drop column stopped_at,
                    drop column last_measured_at,
                    drop column last_measured_page,
                    drop column foreign_host,
                    drop column foreign_at;
                """
            );
    }
}

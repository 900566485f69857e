using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Results pages of views too, with an end, without money, and linked from where a short link leads.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261130000200_ResultPagesOfViews")]
    public class ResultPagesOfViews : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                alter table result_pages
                    alter column link_id drop not null,
                    add column address text,
                    add column name text,
                    add column with_money boolean not null default false,
                    add column ends_on date,
                    add column on_where_page boolean not null default false,
                    add column openings integer not null default 0,
                    add column last_opened_at timestamp with time zone;
                """
            );

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                delete from result_pages where link_id is null;
                alter table result_pages
                    alter column link_id set not null,
                    drop column address,
                    drop column name,
                    drop column with_money,
                    drop column ends_on,
                    drop column on_where_page,
                    drop column openings,
                    drop column last_opened_at;
                """
            );
    }
}

using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>What visits did with spots of a site's own pages: seen, clicked, conversions after.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261130001300_Spots")]
    public class Spots : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(MonthsOf("'visit_event', 'visit_spot', ") + Table);

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(MonthsOf("'visit_event', ") + "drop table visit_spot;");

        private static string MonthsOf(string more) =>
            $"""
            create or replace function make_month(wanted date) returns void language plpgsql as $$
            declare
                first date := date_trunc('month', wanted)::date;
                part text;
            begin
                if exists (select from made_month where month = first) then
                    return;
                end if;
                perform pg_advisory_xact_lock(7002);
                if exists (select from made_month where month = first) then
                    return;
                end if;
                foreach part in array array['hit', 'page_event', 'click', 'visit', {more}'page_view', 'conversion'] loop
                    execute format('create table %I partition of %I for values from (%L) to (%L)',
                        part || to_char(first, '_YYYYMM'), part,
                        to_char(first, 'YYYY-MM-DD') || ' 00:00+00',
                        to_char(first + interval '1 month', 'YYYY-MM-DD') || ' 00:00+00');
                end loop;
                insert into made_month values (first);
            end $$;

            """;

        private const string Table = """
            create table visit_spot (
                visit_id uuid not null,
                workspace_id uuid not null,
                visitor uuid not null,
                at timestamptz not null,
                day date not null,
                name text not null,
                seen int not null,
                clicked int not null,
                after_seen int not null,
                after_clicked int not null,
                primary key (at, visit_id, name)
            ) partition by range (at);
            create index on visit_spot (workspace_id, visitor, day);
            create index on visit_spot (workspace_id, day);

            do $$
            declare
                first date;
            begin
                for first in select month from made_month loop
                    execute format('create table %I partition of visit_spot for values from (%L) to (%L)',
                        'visit_spot' || to_char(first, '_YYYYMM'),
                        to_char(first, 'YYYY-MM-DD') || ' 00:00+00',
                        to_char(first + interval '1 month', 'YYYY-MM-DD') || ' 00:00+00');
                end loop;
            end $$;
            """;
    }
}

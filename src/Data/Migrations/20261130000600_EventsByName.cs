using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>How often which named event occurred in a visit, so that reports count each name.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261130000600_EventsByName")]
    public class EventsByName : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) => migrationBuilder.Sql(MonthsOf("'visit_event', ") + Table);

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(MonthsOf("") + "drop table visit_event;");

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
            create table visit_event (
                visit_id uuid not null,
                workspace_id uuid not null,
                visitor uuid not null,
                at timestamptz not null,
                day date not null,
                hour smallint not null,
                name text not null,
                times int not null,
                primary key (at, visit_id, name)
            ) partition by range (at);
            create index on visit_event (workspace_id, visitor, day);
            create index on visit_event (workspace_id, day, hour);

            do $$
            declare
                first date;
            begin
                for first in select month from made_month loop
                    execute format('create table %I partition of visit_event for values from (%L) to (%L)',
                        'visit_event' || to_char(first, '_YYYYMM'),
                        to_char(first, 'YYYY-MM-DD') || ' 00:00+00',
                        to_char(first + interval '1 month', 'YYYY-MM-DD') || ' 00:00+00');
                end loop;
            end $$;

            -- Visits of before get their names when there is nothing else to do.
            insert into visit_due (workspace_id, visitor, day, later)
            select distinct e.workspace_id, e.visitor, (e.at at time zone w.time_zone)::date, true
            from page_event e join workspaces w on w.id = e.workspace_id where e.kind = 1;
            """;
    }
}

using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Conversions that owners define by a page or an event, and the months in which they are still to be found.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261130000400_ConversionKinds")]
    public class ConversionKinds : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                create table conversion_kinds (
                    id uuid not null constraint pk_conversion_kinds primary key,
                    workspace_id uuid not null constraint fk_conversion_kinds_workspaces_workspace_id references workspaces (id) on delete cascade,
                    name text not null,
                    test character varying(40) not null,
                    text text not null,
                    value numeric(18,4),
                    takes_value boolean not null,
                    counts_each boolean not null,
                    made_by text not null,
                    made_at timestamp with time zone not null
                );
                create unique index ix_conversion_kinds_workspace_id_name on conversion_kinds (workspace_id, name);

                create table conversion_months (
                    id uuid not null constraint pk_conversion_months primary key,
                    workspace_id uuid not null constraint fk_conversion_months_workspaces_workspace_id references workspaces (id) on delete cascade,
                    month date not null,
                    test character varying(40) not null,
                    text text not null
                );
                create index ix_conversion_months_workspace_id on conversion_months (workspace_id);

                -- Another one with every change of the definitions, so that they are read anew only then.
                alter table workspaces add column conversions_stamp uuid;
                """
            );

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                drop table conversion_kinds, conversion_months;
                alter table workspaces drop column conversions_stamp;
                """
            );
    }
}

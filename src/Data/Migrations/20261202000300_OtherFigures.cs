using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Figures of other systems, what they say they are about, and what somebody said such a name means.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261202000300_OtherFigures")]
    public class OtherFigures : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                create table figure_import (
                    id uuid primary key,
                    workspace_id uuid not null references workspaces on delete cascade,
                    number bigint generated always as identity,
                    system text not null,
                    name text not null,
                    recipe jsonb not null,
                    lines integer not null,
                    done integer not null default 0,
                    kept integer not null default 0,
                    skipped jsonb not null default '{}',
                    first_day date,
                    last_day date,
                    made_at timestamptz not null,
                    made_by text not null,
                    beat_at timestamptz not null,
                    finished_at timestamptz,
                    undone_at timestamptz,
                    undone_by text
                );
                create index ix_figure_import on figure_import (workspace_id, number desc);

                create table figure_subject (
                    id integer generated always as identity primary key,
                    workspace_id uuid not null references workspaces on delete cascade,
                    key uuid not null,
                    system text not null,
                    link text not null,
                    campaign text not null,
                    placement text not null,
                    values jsonb not null,
                    unique (workspace_id, key)
                );

                create table imported_figure (
                    workspace_id uuid not null,
                    import_id uuid not null references figure_import on delete cascade,
                    subject_id integer not null references figure_subject on delete cascade,
                    day date not null,
                    shown bigint,
                    sent bigint,
                    delivered bigint,
                    opened bigint,
                    clicks bigint,
                    visits bigint,
                    conversions numeric(18, 4),
                    primary key (import_id, subject_id, day)
                );
                create index ix_imported_figure on imported_figure (workspace_id, day);

                create table figure_match (
                    workspace_id uuid not null references workspaces on delete cascade,
                    system text not null,
                    part smallint not null,
                    text text not null,
                    target_id uuid,
                    made_at timestamptz not null,
                    made_by text not null
                );
                create unique index ix_figure_match on figure_match (workspace_id, system, part, md5(text));
                """
            );

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql("drop table imported_figure, figure_subject, figure_import, figure_match;");
    }
}

using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Findings of all checks in one list: since when each is there, how much it touched then, and until when it is quiet.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261202000200_ProofFindings")]
    public class ProofFindings : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                alter table workspaces add column findings_at timestamptz,
                    add column findings_next timestamptz not null default now() + interval '10 minutes';

                create table proof_finding (
                    id uuid primary key,
                    workspace_id uuid not null references workspaces (id) on delete cascade,
                    key text not null,
                    area smallint not null,
                    about text not null,
                    severity smallint not null,
                    subject text not null,
                    message text not null,
                    weight bigint not null,
                    weight_then bigint not null,
                    first_seen timestamptz not null,
                    gone_at timestamptz,
                    quiet_until timestamptz,
                    quiet_reason text,
                    quiet_by text
                );
                create unique index on proof_finding (workspace_id, md5(key));
                """
            );

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql("drop table proof_finding; alter table workspaces drop column findings_at, drop column findings_next;");
    }
}

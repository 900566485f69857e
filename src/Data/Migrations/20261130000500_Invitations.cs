using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Links by which people join, and by which members choose a new password.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261130000500_Invitations")]
    public class Invitations : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                create table invitations (
                    id uuid not null constraint pk_invitations primary key,
                    workspace_id uuid not null constraint fk_invitations_workspaces_workspace_id references workspaces (id) on delete cascade,
                    hash bytea not null,
                    mail text not null,
                    role character varying(40) not null,
                    user_id uuid,
                    made_by text not null,
                    made_at timestamp with time zone not null,
                    expires_at timestamp with time zone not null,
                    used_at timestamp with time zone,
                    revoked_at timestamp with time zone
                );
                create unique index ix_invitations_hash on invitations (hash);
                create index ix_invitations_workspace_id on invitations (workspace_id);
                """
            );

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) => migrationBuilder.Sql("drop table invitations;");
    }
}

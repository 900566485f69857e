using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Mails that wait to be sent, and what became of them.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261202000700_OutgoingMail")]
    public class OutgoingMail : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                create table outgoing_mail (
                    id uuid primary key,
                    workspace_id uuid references workspaces on delete cascade,
                    kind text not null,
                    recipient text not null,
                    subject text not null,
                    text text,
                    html text,
                    made_at timestamptz not null,
                    due_at timestamptz not null,
                    claimed_until timestamptz,
                    tries integer not null default 0,
                    sent_at timestamptz,
                    given_up_at timestamptz,
                    answer text
                );
                create index outgoing_mail_due on outgoing_mail (due_at) where sent_at is null and given_up_at is null;
                create index outgoing_mail_of_workspace on outgoing_mail (workspace_id, id);

                -- Somebody who asks ten times for a new password gets one mail.
                create unique index outgoing_mail_forgotten on outgoing_mail (lower(recipient))
                    where kind = 'forgotten' and sent_at is null and given_up_at is null;
                """
            );

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) => migrationBuilder.Sql("drop table outgoing_mail;");
    }
}

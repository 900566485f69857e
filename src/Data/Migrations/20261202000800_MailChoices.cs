using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Which mails a member wants, and where each mail that is wanted says how to end it.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261202000800_MailChoices")]
    public class MailChoices : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                create table mail_choice (
                    workspace_id uuid not null references workspaces on delete cascade,
                    user_id uuid not null references "AspNetUsers" on delete cascade,
                    kind text not null,
                    primary key (workspace_id, user_id, kind)
                );
                alter table outgoing_mail add column stop_address text;
                """
            );

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql("alter table outgoing_mail drop column stop_address; drop table mail_choice;");
    }
}

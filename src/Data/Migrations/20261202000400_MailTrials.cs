using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Trials of all links of a mail at once.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261202000400_MailTrials")]
    public class MailTrials : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                alter table trial
                    add column mail_id uuid references mails (id) on delete cascade,
                    add column mail_number integer,
                    add column run_id uuid;
                create index ix_trial_mail on trial (mail_id, started_at desc) where mail_id is not null;
                """
            );

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql("alter table trial drop column mail_id, drop column mail_number, drop column run_id;");
    }
}

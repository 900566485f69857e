using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Sessions that can be ended one by one, keys that expire, and a way to clear what has had its time.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261128205208_Sessions")]
    public class Sessions : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<DateTimeOffset>(name: "expires_at", table: "api_keys", type: "timestamp with time zone", nullable: true);
            migrationBuilder.AddColumn<DateTimeOffset>(name: "last_used_at", table: "api_keys", type: "timestamp with time zone", nullable: true);
            migrationBuilder.CreateTable(
                name: "user_sessions",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    user_id = table.Column<Guid>(type: "uuid", nullable: false),
                    user_agent = table.Column<string>(type: "text", nullable: false),
                    started_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    seen_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_user_sessions", x => x.id);
                    table.ForeignKey("fk_user_sessions_users_user_id", x => x.user_id, "AspNetUsers", "id", onDelete: ReferentialAction.Cascade);
                });
            migrationBuilder.CreateIndex(name: "ix_user_sessions_user_id", table: "user_sessions", column: "user_id");
            migrationBuilder.Sql("alter table slug_change add column told_at timestamptz not null default now()");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new NotSupportedException("Sessions end by themselves; going back a version is not offered.");
    }
}

using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Link reviews and partner pages under the names people know them by, with their keys and indexes.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261129100000_PlainNames")]
    public partial class PlainNames : Migration
    {
        private static readonly (string Old, string New)[] Names =
            [("audited_links", "reviewed_links"), ("audits", "link_reviews"), ("hand_overs", "partner_pages"), ("audit_id", "link_review_id")];

        private static readonly (string Old, string New)[] Kinds = [("audit", "link-review"), ("hand-over", "partner-page")];

        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.RenameTable("audits", newName: "link_reviews");
            migrationBuilder.RenameTable("audited_links", newName: "reviewed_links");
            migrationBuilder.RenameTable("hand_overs", newName: "partner_pages");
            migrationBuilder.RenameColumn("audit_id", "reviewed_links", "link_review_id");
            foreach (var (old, name) in Names)
            {
                RenameParts(migrationBuilder, old, name);
            }

            foreach (var (old, name) in Kinds)
            {
                migrationBuilder.Sql($"update change_log set what = '{name}' where what = '{old}'");
            }
        }

        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.RenameColumn("link_review_id", "reviewed_links", "audit_id");
            migrationBuilder.RenameTable("link_reviews", newName: "audits");
            migrationBuilder.RenameTable("reviewed_links", newName: "audited_links");
            migrationBuilder.RenameTable("partner_pages", newName: "hand_overs");
            foreach (var (old, name) in Names)
            {
                RenameParts(migrationBuilder, name, old);
            }

            foreach (var (old, name) in Kinds)
            {
                migrationBuilder.Sql($"update change_log set what = '{old}' where what = '{name}'");
            }
        }

        /// <summary>Keys and indexes carry the name of their table; renaming a key's constraint renames its index too.</summary>
        private static void RenameParts(MigrationBuilder migrationBuilder, string old, string name) => migrationBuilder.Sql(
            $"""
            do $$
            declare part record;
            begin
              for part in select conname, conrelid::regclass as host from pg_constraint where conname ~ '(^|_){old}(_|$)' loop
                execute format('alter table %s rename constraint %I to %I', part.host, part.conname, replace(part.conname, '{old}', '{name}'));
              end loop;
              for part in select indexrelid::regclass as index, relname from pg_index join pg_class on pg_class.oid = indexrelid where relname ~ '(^|_){old}(_|$)' loop
                execute format('alter index %s rename to %I', part.index, replace(part.relname, '{old}', '{name}'));
              end loop;
            end $$
            """);
    }
}

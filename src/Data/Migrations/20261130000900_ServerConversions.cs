using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace PreciseBeacon.Data.Migrations
{
    /// <summary>Conversions and refunds that servers report, and the ids of clicks by which they find theirs.</summary>
    [DbContext(typeof(BeaconDb))]
    [Migration("20261130000900_ServerConversions")]
    public class ServerConversions : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                alter table links add click_ids boolean not null default false;
                alter table hit add click_id uuid;
                create index on hit (click_id) where click_id is not null;

                alter table page_event add placed boolean not null default true;
                alter table page_event add happened_at timestamptz;
                alter table conversion add happened_at timestamptz;
                create index on conversion (site_id, order_id) where order_id is not null;

                -- One row for each report, so that one sent again changes nothing, and one for each order.
                create table server_report (
                    workspace_id uuid not null references workspaces on delete cascade,
                    event_id text not null,
                    site_id uuid not null references sites on delete cascade,
                    order_id text,
                    came_at timestamptz not null,
                    primary key (workspace_id, event_id)
                );
                create unique index ix_server_report_order on server_report (site_id, order_id) where order_id is not null;

                create table refund (
                    id uuid primary key,
                    workspace_id uuid not null references workspaces on delete cascade,
                    site_id uuid not null references sites on delete cascade,
                    order_id text not null,
                    day date not null,
                    at timestamptz not null,
                    value numeric not null,
                    currency char(3) not null,

                    -- What its order's visit was, once that is no longer kept one by one.
                    order_value numeric,
                    order_currency text,
                    source_id int,
                    landing_page_id int,
                    last_page_id int,
                    place_id int,
                    device_id int,
                    hour smallint,
                    has_id boolean,
                    is_new boolean
                );
                create index ix_refund_order on refund (site_id, order_id);
                create index ix_refund_day on refund (workspace_id, day);
                """
            );

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                drop table refund;
                drop table server_report;
                drop index conversion_site_id_order_id_idx;
                alter table conversion drop happened_at;
                alter table page_event drop happened_at, drop placed;
                alter table hit drop click_id;
                alter table links drop click_ids;
                """
            );
    }
}

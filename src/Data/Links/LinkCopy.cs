using System.Text.Json;
using Npgsql;
using NpgsqlTypes;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.Links;

/// <summary>Writes many links with their short links by binary COPY, within a transaction of the caller's.</summary>
public static class LinkCopy
{
    private static readonly CopyTable<(Guid Workspace, Link Link)> Links = new CopyTable<(Guid Workspace, Link Link)>("links")
        .Column("id", NpgsqlDbType.Uuid, r => r.Link.Id)
        .Column("workspace_id", NpgsqlDbType.Uuid, r => r.Workspace)
        .Nullable("title", NpgsqlDbType.Text, r => r.Link.Title)
        .Column("destination", NpgsqlDbType.Text, r => r.Link.Destination)
        .Column("url", NpgsqlDbType.Text, r => r.Link.Url)
        .Column("values", NpgsqlDbType.Jsonb, r => JsonSerializer.Serialize(r.Link.Values, JsonSerializerOptions.Default))
        .Column("style", NpgsqlDbType.Text, r => r.Link.Style.ToString())
        .Column("convention_version", NpgsqlDbType.Integer, r => r.Link.ConventionVersion)
        .Nullable("campaign_id", NpgsqlDbType.Uuid, r => r.Link.CampaignId)
        .Nullable("placement_id", NpgsqlDbType.Uuid, r => r.Link.PlacementId)
        .Column("created_by", NpgsqlDbType.Text, r => r.Link.CreatedBy)
        .Column("created_at", NpgsqlDbType.TimestampTz, r => r.Link.CreatedAt.UtcDateTime)
        .Column("page", NpgsqlDbType.Text, r => r.Link.Page)
        .Column("tags_key", NpgsqlDbType.Uuid, r => r.Link.TagsKey)
        .Column("is_unshortened", NpgsqlDbType.Boolean, r => r.Link.ShortLinks.Count == 0)
        .Column("is_waiting", NpgsqlDbType.Boolean, r => r.Link.IsWaiting)
        .Column("carries", NpgsqlDbType.Text, r => r.Link.Carries.ToString())
        .Nullable("ends_at", NpgsqlDbType.TimestampTz, r => r.Link.EndsAt?.UtcDateTime)
        .Nullable("fallback", NpgsqlDbType.Text, r => r.Link.Fallback)
        .Nullable("most_uses", NpgsqlDbType.Integer, r => r.Link.MostUses)
        .Nullable("uses_left", NpgsqlDbType.Integer, r => r.Link.UsesLeft);

    private static readonly CopyTable<(Guid Workspace, Link Link, ShortLink Short)> ShortLinks = new CopyTable<(
        Guid Workspace,
        Link Link,
        ShortLink Short
    )>("short_links")
        .Column("id", NpgsqlDbType.Uuid, r => r.Short.Id)
        .Column("workspace_id", NpgsqlDbType.Uuid, r => r.Workspace)
        .Column("link_id", NpgsqlDbType.Uuid, r => r.Link.Id)
        .Column("short_domain_id", NpgsqlDbType.Uuid, r => r.Short.ShortDomainId)
        .Column("slug", NpgsqlDbType.Text, r => r.Short.Slug)
        .Column("use", NpgsqlDbType.Text, r => r.Short.Use.ToString())
        .Column("target", NpgsqlDbType.Text, r => r.Short.Target)
        .Column("created_at", NpgsqlDbType.TimestampTz, r => r.Short.CreatedAt.UtcDateTime);

    /// <summary>Writes them.</summary>
    /// <param name="connection">An open connection, in a transaction.</param>
    /// <param name="workspaceId">The workspace they belong to.</param>
    /// <param name="links">The links; none of them placed yet.</param>
    /// <param name="cancel">Gives up.</param>
    /// <exception cref="PostgresException">A slug is taken; the transaction must go back to a savepoint.</exception>
    public static async Task WriteAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        IReadOnlyCollection<Link> links,
        CancellationToken cancel
    )
    {
        await Links.WriteAsync(connection, links.Select(l => (workspaceId, l)), cancel);
        await ShortLinks.WriteAsync(connection, links.SelectMany(l => l.ShortLinks.Select(s => (workspaceId, l, s))), cancel);
    }
}

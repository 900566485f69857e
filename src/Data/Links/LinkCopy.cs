using System.Text.Json;
using Npgsql;
using NpgsqlTypes;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.Links;

/// <summary>Writes many links with their short links by binary COPY, within a transaction of the caller's.</summary>
public static class LinkCopy
{
    private const string Links =
        "copy links (id, workspace_id, title, destination, url, values, style, convention_version, campaign_id, placement_id, created_by, created_at, page, tags_key, is_unshortened, is_waiting, carries, ends_at, fallback, most_uses, uses_left) from stdin (format binary)";

    private const string ShortLinks =
        "copy short_links (id, workspace_id, link_id, short_domain_id, slug, use, target, created_at) from stdin (format binary)";

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
        await using (var copy = await connection.BeginBinaryImportAsync(Links, cancel))
        {
            foreach (var link in links)
            {
                await copy.StartRowAsync(cancel);
                await copy.WriteAsync(link.Id, cancel);
                await copy.WriteAsync(workspaceId, cancel);
                await WriteOrNullAsync(copy, link.Title, cancel);
                await copy.WriteAsync(link.Destination, cancel);
                await copy.WriteAsync(link.Url, cancel);
                await copy.WriteAsync(JsonSerializer.Serialize(link.Values, JsonSerializerOptions.Default), NpgsqlDbType.Jsonb, cancel);
                await copy.WriteAsync(link.Style.ToString(), cancel);
                await copy.WriteAsync(link.ConventionVersion, cancel);
                await WriteOrNullAsync(copy, link.CampaignId, cancel);
                await WriteOrNullAsync(copy, link.PlacementId, cancel);
                await copy.WriteAsync(link.CreatedBy, cancel);
                await copy.WriteAsync(link.CreatedAt.UtcDateTime, NpgsqlDbType.TimestampTz, cancel);
                await copy.WriteAsync(link.Page, cancel);
                await copy.WriteAsync(link.TagsKey, cancel);
                await copy.WriteAsync(link.ShortLinks.Count == 0, cancel);
                await copy.WriteAsync(link.IsWaiting, cancel);
                await copy.WriteAsync(link.Carries.ToString(), cancel);
                await WriteOrNullAsync(copy, link.EndsAt?.UtcDateTime, cancel);
                await WriteOrNullAsync(copy, link.Fallback, cancel);
                await WriteOrNullAsync(copy, link.MostUses, cancel);
                await WriteOrNullAsync(copy, link.UsesLeft, cancel);
            }

            await copy.CompleteAsync(cancel);
        }

        await using var shorts = await connection.BeginBinaryImportAsync(ShortLinks, cancel);
        foreach (var link in links)
        {
            foreach (var text in link.ShortLinks)
            {
                await shorts.StartRowAsync(cancel);
                await shorts.WriteAsync(text.Id, cancel);
                await shorts.WriteAsync(workspaceId, cancel);
                await shorts.WriteAsync(link.Id, cancel);
                await shorts.WriteAsync(text.ShortDomainId, cancel);
                await shorts.WriteAsync(text.Slug, cancel);
                await shorts.WriteAsync(text.Use.ToString(), cancel);
                await shorts.WriteAsync(text.Target, cancel);
                await shorts.WriteAsync(text.CreatedAt.UtcDateTime, NpgsqlDbType.TimestampTz, cancel);
            }
        }

        await shorts.CompleteAsync(cancel);
    }

    private static Task WriteOrNullAsync(NpgsqlBinaryImporter copy, string? text, CancellationToken cancel) =>
        text is null ? copy.WriteNullAsync(cancel) : copy.WriteAsync(text, cancel);

    private static Task WriteOrNullAsync(NpgsqlBinaryImporter copy, int? number, CancellationToken cancel) =>
        number is { } known ? copy.WriteAsync(known, cancel) : copy.WriteNullAsync(cancel);

    private static Task WriteOrNullAsync(NpgsqlBinaryImporter copy, DateTime? moment, CancellationToken cancel) =>
        moment is { } known ? copy.WriteAsync(known, NpgsqlDbType.TimestampTz, cancel) : copy.WriteNullAsync(cancel);

    private static Task WriteOrNullAsync(NpgsqlBinaryImporter copy, Guid? id, CancellationToken cancel) =>
        id is { } known ? copy.WriteAsync(known, cancel) : copy.WriteNullAsync(cancel);
}

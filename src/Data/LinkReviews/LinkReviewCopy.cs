using Npgsql;
using NpgsqlTypes;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.LinkReviews;

/// <summary>Writes a link review's links in bulk.</summary>
public static class LinkReviewCopy
{
    /// <summary>Writes links by COPY, within the transaction the connection is in.</summary>
    public static async Task WriteAsync(NpgsqlConnection connection, IEnumerable<ReviewedLink> links, CancellationToken cancel)
    {
        await using var copy = await connection.BeginBinaryImportAsync(
            "copy reviewed_links (link_review_id, number, link, found_on, state, mended_url, rules, says) from stdin (format binary)",
            cancel
        );
        foreach (var link in links)
        {
            await copy.StartRowAsync(cancel);
            await copy.WriteAsync(link.LinkReviewId, cancel);
            await copy.WriteAsync(link.Number, cancel);
            await copy.WriteAsync(Plain(link.Link), cancel);
            await WriteAsync(copy, link.FoundOn, cancel);
            await copy.WriteAsync(link.State.ToString(), cancel);
            await WriteAsync(copy, link.MendedUrl, cancel);
            await copy.WriteAsync(link.Rules.ToArray(), NpgsqlDbType.Array | NpgsqlDbType.Text, cancel);
            await copy.WriteAsync(link.Says.Select(Plain).ToArray(), NpgsqlDbType.Array | NpgsqlDbType.Text, cancel);
        }

        await copy.CompleteAsync(cancel);
    }

    private static Task WriteAsync(NpgsqlBinaryImporter copy, string? text, CancellationToken cancel) =>
        text is null ? copy.WriteNullAsync(cancel) : copy.WriteAsync(Plain(text), cancel);

    /// <summary>PostgreSQL has no zero character in its texts.</summary>
    private static string Plain(string text) => text.Replace("\0", "", StringComparison.Ordinal);
}

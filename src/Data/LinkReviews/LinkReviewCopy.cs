using Npgsql;
using NpgsqlTypes;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.LinkReviews;

/// <summary>Writes a link review's links in bulk.</summary>
public static class LinkReviewCopy
{
    private static readonly CopyTable<ReviewedLink> Links = new CopyTable<ReviewedLink>("reviewed_links")
        .Column("link_review_id", NpgsqlDbType.Uuid, l => l.LinkReviewId)
        .Column("number", NpgsqlDbType.Integer, l => l.Number)
        .Column("link", NpgsqlDbType.Text, l => Plain(l.Link))
        .Nullable("found_on", NpgsqlDbType.Text, l => PlainOrNull(l.FoundOn))
        .Column("state", NpgsqlDbType.Text, l => l.State.ToString())
        .Nullable("mended_url", NpgsqlDbType.Text, l => PlainOrNull(l.MendedUrl))
        .Column("rules", NpgsqlDbType.Array | NpgsqlDbType.Text, l => l.Rules.ToArray())
        .Column("says", NpgsqlDbType.Array | NpgsqlDbType.Text, l => l.Says.Select(Plain).ToArray());

    /// <summary>Writes links by COPY, within the transaction the connection is in.</summary>
    public static Task WriteAsync(NpgsqlConnection connection, IEnumerable<ReviewedLink> links, CancellationToken cancel) =>
        Links.WriteAsync(connection, links, cancel);

    private static string? PlainOrNull(string? text) => text is null ? null : Plain(text);

    /// <summary>PostgreSQL has no zero character in its texts.</summary>
    private static string Plain(string text) => text.Replace("\0", "", StringComparison.Ordinal);
}

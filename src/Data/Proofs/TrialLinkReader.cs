using Npgsql;

namespace PreciseBeacon.Data.Proofs;

/// <summary>Reads where the link of a trial is found.</summary>
public sealed class TrialLinkReader(NpgsqlDataSource database)
{
    /// <summary>Host and slug of the link's short link for text, else of its code; both null where it has none. Its whole tagged address.</summary>
    public async Task<(string? Host, string? Slug, string Url)> ReadAsync(Guid linkId, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            """
            select d.host, s.slug, l.url from links l
            left join short_links s on s.link_id = l.id left join short_domains d on d.id = s.short_domain_id
            where l.id = $1 order by s.use desc limit 1
            """
        );
        command.Parameters.Add(new() { Value = linkId });
        await using var reader = await command.ExecuteReaderAsync(cancel);
        await reader.ReadAsync(cancel);
        return (reader.IsDBNull(0) ? null : reader.GetString(0), reader.IsDBNull(1) ? null : reader.GetString(1), reader.GetString(2));
    }
}

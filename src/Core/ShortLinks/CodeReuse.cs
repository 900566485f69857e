using PreciseBeacon.Core.Channels;

namespace PreciseBeacon.Core.ShortLinks;

/// <summary>
/// Notices that a printed code's short link is used elsewhere: a scan brings no page it came from, so a hit that does, or
/// the preview a chat fetches, did not begin on paper (ours).
/// </summary>
public static class CodeReuse
{
    /// <summary>The evidence in the order it began; empty where there is none.</summary>
    /// <param name="seen">Hosts that hits on the code's short link came from, with how many and since when; an empty host stands for previews.</param>
    /// <param name="own">Hosts of the workspace's own sites and short domains: a visitor who goes on from there is no reuse.</param>
    /// <param name="kinds">The workspace's own kinds of referrers.</param>
    public static IReadOnlyList<ReuseEvidence> Find(
        IEnumerable<(string Host, long Hits, DateTimeOffset Since)> seen,
        IReadOnlySet<string> own,
        IReadOnlyDictionary<string, ReferrerKind> kinds
    ) =>
        [
            .. seen.Where(s => !own.Contains(s.Host))
                .OrderBy(s => s.Since)
                .Select(s => new ReuseEvidence(s.Host, s.Host.Length == 0 ? null : ReferrerKinds.Of(s.Host, kinds), s.Hits, s.Since)),
        ];
}

/// <summary>Hits on a printed code's short link that did not begin on paper.</summary>
/// <param name="Host">Where they came from; empty for previews in chats and on networks.</param>
/// <param name="Kind">What kind of site that is; null for previews.</param>
/// <param name="Hits">How many.</param>
/// <param name="Since">When the first came.</param>
public sealed record ReuseEvidence(string Host, ReferrerKind? Kind, long Hits, DateTimeOffset Since);

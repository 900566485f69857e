using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing.Checks;

/// <summary>Finds links that could not be told apart: from one another, or from one that exists.</summary>
public static class TwinCheck
{
    /// <summary>Adds a notice to every link whose URL another one has too.</summary>
    /// <param name="links">Links made together, in order.</param>
    /// <param name="existing">Names of links that exist, by URL.</param>
    /// <returns>The links in the same order.</returns>
    public static IReadOnlyList<ComposedLink> Run(IReadOnlyList<ComposedLink> links, IReadOnlyDictionary<string, string> existing)
    {
        var counts = links.Where(l => l.Tagged is not null).CountBy(l => l.Tagged!.Url).ToDictionary();
        return
        [
            .. links.Select(link =>
                link.Tagged is null ? link : With(link, counts[link.Tagged.Url] > 1, existing.GetValueOrDefault(link.Tagged.Url))
            ),
        ];
    }

    private static ComposedLink With(ComposedLink link, bool repeated, string? existing)
    {
        var added = new List<Notice>();
        if (repeated)
        {
            added.Add(
                Notice.Of(
                    NoticeRules.SameAsOther,
                    null,
                    "Another link made here has exactly this address, so their visits can't be told apart; give one of them a different content."
                )
            );
        }

        if (existing is not null)
        {
            added.Add(
                Notice.Of(
                    NoticeRules.SameAsExisting,
                    null,
                    $"“{existing}” in the Ledger has exactly this address; use that link, or give this one a different content."
                )
            );
        }

        return added.Count == 0 ? link : link with { Notices = [.. link.Notices.Concat(added).OrderByDescending(n => n.Severity)] };
    }
}

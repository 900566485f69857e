using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outside;

namespace PreciseBeacon.Core.Traffic;

/// <summary>What one page view says about where its visitor came from.</summary>
/// <param name="Tags">The tag-like parameters in the page's address.</param>
/// <param name="ReferrerHost">Host of an outside referrer; empty when there was none or it was one's own.</param>
/// <param name="FromOwnSite">True when the referrer is one of the workspace's own sites or a host people pass through, or, without tags, of its short domains.</param>
/// <param name="Page">Host and path of the page.</param>
public sealed record Arrival(RawTags Tags, string ReferrerHost, bool FromOwnSite, string Page)
{
    /// <summary>Reads a page view; an address that can't be read has no tags and stands as it is.</summary>
    public static Arrival Read(RawPageEvent view, VisitRules rules)
    {
        string referrerHost = view.Referrer.Length == 0 ? "" : DestinationReader.Read(view.Referrer).Destination?.HostAndPort ?? "";
        bool own = rules.OwnHosts.Contains(referrerHost) || RefusedHosts.Find(rules.PassingHosts, referrerHost) is not null;
        var page = DestinationReader.Read(view.Url).Destination;
        var tags = page is null ? RawTags.None : TagsOf(page, rules);
        if (rules.ShortHosts.Contains(referrerHost))
        {
            referrerHost = "";
            own = !tags.Any;
        }

        return new Arrival(tags, own ? "" : referrerHost, own, page?.Page ?? view.Url);
    }

    /// <summary>The code a page's address carries where links are sealed; null when it has none.</summary>
    public static string? SealedCodeOf(RawPageEvent view, string sealedKey) =>
        view.Url.Contains(sealedKey, StringComparison.OrdinalIgnoreCase) && DestinationReader.Read(view.Url).Destination is { } page
            ? LinkReader.Read(page, [new Tag(sealedKey, "")]).Values.GetValueOrDefault(sealedKey)
            : null;

    /// <summary>
    /// What a sealed code stands for comes where it isn't said in the open; a code nobody knows stays with its own key, as a stray.
    /// </summary>
    private static RawTags TagsOf(Destination page, VisitRules rules)
    {
        var tags = RawTags.Of(page, key =>
            rules.Vocabulary.IsTagLike(key) || key.Equals(rules.SealedKey, StringComparison.OrdinalIgnoreCase)
        );
        return
            rules.SealedKey is { } key
            && tags.Values.TryGetValue(key.ToLowerInvariant(), out string? code)
            && rules.Sealed.TryGetValue(code, out var behind)
            ? tags.Unsealed(key, behind)
            : tags;
    }
}

using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Traffic;

/// <summary>What one page view says about where its visitor came from.</summary>
/// <param name="Tags">The tags in the page's address.</param>
/// <param name="ReferrerHost">Host of an outside referrer; empty when there was none or it was one's own.</param>
/// <param name="FromOwnSite">True when the referrer is one of the workspace's own sites.</param>
/// <param name="Page">Host and path of the page.</param>
public sealed record Arrival(ArrivalTags Tags, string ReferrerHost, bool FromOwnSite, string Page)
{
    /// <summary>Reads a page view; an address that can't be read has no tags and stands as it is.</summary>
    public static Arrival Read(RawPageEvent view, VisitRules rules)
    {
        string referrerHost = view.Referrer.Length == 0 ? "" : DestinationReader.Read(view.Referrer).Destination?.HostAndPort ?? "";
        bool own = rules.OwnHosts.Contains(referrerHost);
        if (DestinationReader.Read(view.Url).Destination is not { } page)
        {
            return new Arrival(ArrivalTags.None, own ? "" : referrerHost, own, view.Url);
        }

        var values = LinkReader.Read(page, rules.Tags).Values;
        var tags = new ArrivalTags(
            Value(StandardKeys.Source),
            Value(StandardKeys.Medium),
            Value(StandardKeys.Campaign),
            Value(StandardKeys.Term),
            Value(StandardKeys.Content),
            Value(StandardKeys.Id));
        return new Arrival(tags, own ? "" : referrerHost, own, page.HostAndPort + (page.Path.Length == 0 ? "/" : page.Path));

        string? Value(string key) => values.TryGetValue(key, out string? value) && value.Length > 0 ? Readable(value) : null;
    }

    /// <summary>A decoded value can hold anything (<c>%00</c>); what nobody could type or store shows as U+FFFD.</summary>
    private static string Readable(string value) =>
        value.Any(char.IsControl) ? string.Concat(value.Select(c => char.IsControl(c) ? '\uFFFD' : c)) : value;
}

using System.Text.Json;
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

        var values = LinkReader.Read(page, rules.Tags).Values
            .Where(v => v.Value.Length > 0)
            .ToDictionary(v => v.Key, v => Readable(v.Value), StringComparer.Ordinal);
        var tags = new ArrivalTags(
            values.GetValueOrDefault(StandardKeys.Source),
            values.GetValueOrDefault(StandardKeys.Medium),
            values.GetValueOrDefault(StandardKeys.Campaign),
            values.GetValueOrDefault(StandardKeys.Term),
            values.GetValueOrDefault(StandardKeys.Content),
            values.GetValueOrDefault(StandardKeys.Id),
            OwnOf(values))
        {
            LinkKeys = LinkKey.Candidates(values),
        };
        return new Arrival(tags, own ? "" : referrerHost, own, page.Page);
    }

    private static string? OwnOf(Dictionary<string, string> values)
    {
        var own = new SortedDictionary<string, string>(
            values.Where(v => !StandardKeys.All.Contains(v.Key)).ToDictionary(), StringComparer.Ordinal);
        return own.Count == 0 ? null : JsonSerializer.Serialize(own);
    }

    /// <summary>A decoded value can hold anything (<c>%00</c>); what nobody could type or store shows as U+FFFD.</summary>
    private static string Readable(string value) =>
        value.Any(char.IsControl) ? string.Concat(value.Select(c => char.IsControl(c) ? '\uFFFD' : c)) : value;
}

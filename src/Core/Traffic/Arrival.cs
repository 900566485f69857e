using System.Text.Json;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Traffic;

/// <summary>What one page view says about where its visitor came from.</summary>
/// <param name="Tags">The tags in the page's address.</param>
/// <param name="ReferrerHost">Host of an outside referrer; empty when there was none or it was one's own.</param>
/// <param name="FromOwnSite">True when the referrer is one of the workspace's own sites, or, without tags, of its short domains.</param>
/// <param name="Page">Host and path of the page.</param>
public sealed record Arrival(ArrivalTags Tags, string ReferrerHost, bool FromOwnSite, string Page)
{
    /// <summary>Reads a page view; an address that can't be read has no tags and stands as it is.</summary>
    public static Arrival Read(RawPageEvent view, VisitRules rules)
    {
        string referrerHost = view.Referrer.Length == 0 ? "" : DestinationReader.Read(view.Referrer).Destination?.HostAndPort ?? "";
        bool own = rules.OwnHosts.Contains(referrerHost);
        if (rules.ShortHosts.Contains(referrerHost))
        {
            referrerHost = "";
            own = DestinationReader.Read(view.Url).Destination is not { } linked || ValuesOf(linked, rules).Count == 0;
        }

        if (DestinationReader.Read(view.Url).Destination is not { } page)
        {
            return new Arrival(ArrivalTags.None, own ? "" : referrerHost, own, view.Url);
        }

        var values = ValuesOf(page, rules);
        var tags = new ArrivalTags(
            Of(FieldMeaning.Source),
            Of(FieldMeaning.Medium),
            Of(FieldMeaning.Campaign),
            Of(FieldMeaning.Term),
            Of(FieldMeaning.Content),
            Of(FieldMeaning.Id),
            OwnOf(values, rules)
        )
        {
            LinkKeys = LinkKey.Candidates(values),
        };
        return new Arrival(tags, own ? "" : referrerHost, own, page.Page);

        string? Of(FieldMeaning meaning) => rules.Keys.TryGetValue(meaning, out string? key) ? values.GetValueOrDefault(key) : null;
    }

    /// <summary>The code a page's address carries where links are sealed; null when it has none.</summary>
    public static string? SealedCodeOf(RawPageEvent view, string sealedKey) =>
        view.Url.Contains(sealedKey, StringComparison.OrdinalIgnoreCase) && DestinationReader.Read(view.Url).Destination is { } page
            ? LinkReader.Read(page, [new Tag(sealedKey, "")]).Values.GetValueOrDefault(sealedKey)
            : null;

    /// <summary>
    /// The values a page's address says, by field key. What a sealed code stands for comes where it isn't said in the
    /// open; a code nobody knows stays with its own key, as a stray.
    /// </summary>
    private static Dictionary<string, string> ValuesOf(Destination page, VisitRules rules)
    {
        IReadOnlyList<Tag> tags = rules.SealedKey is { } sealedKey ? [.. rules.Tags, new Tag(sealedKey, "")] : rules.Tags;
        var values = LinkReader
            .Read(page, tags)
            .Values.Where(v => v.Value.Length > 0)
            .ToDictionary(v => v.Key, v => Readable(v.Value), StringComparer.Ordinal);
        if (rules.SealedKey is { } key && values.TryGetValue(key, out string? code) && rules.Sealed.TryGetValue(code, out var behind))
        {
            values.Remove(key);
            foreach (var (name, value) in behind)
            {
                values.TryAdd(name, value);
            }
        }

        return values;
    }

    private static string? OwnOf(Dictionary<string, string> values, VisitRules rules)
    {
        var own = new SortedDictionary<string, string>(
            values.Where(v => !rules.Keys.Values.Contains(v.Key)).ToDictionary(),
            StringComparer.Ordinal
        );
        return own.Count == 0 ? null : JsonSerializer.Serialize(own);
    }

    /// <summary>A decoded value can hold anything (<c>%00</c>); what nobody could type or store shows as U+FFFD.</summary>
    private static string Readable(string value) =>
        value.Any(char.IsControl) ? string.Concat(value.Select(c => char.IsControl(c) ? '\uFFFD' : c)) : value;
}

using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Conventions;

/// <summary>Reads any tagged URL back into fields, judges it, and writes it as the convention would.</summary>
public static class LinkInspector
{
    /// <summary>Inspects a URL as a person pasted it.</summary>
    /// <param name="convention">The convention to judge by.</param>
    /// <param name="url">The URL.</param>
    /// <param name="facts">What is known about the outside; sealed codes must be looked up before.</param>
    /// <param name="foundOn">Host and port of the page it stands on, or null when it is not known.</param>
    public static InspectedLink Inspect(Convention convention, string url, LinkFacts facts, string? foundOn = null)
    {
        var reading = DestinationReader.Read(url);
        if (reading.Destination is not { } given)
        {
            return new InspectedLink(null, null, [], reading.Notices);
        }

        var straight = Straighten(given, convention);
        var read = LinkReader.Read(straight, SealedLinks.TagsOf(convention));
        var values = SealedLinks.Unseal(convention, read.Values, facts, out string? unknownCode);
        var mended = ConventionComposer.Compose(
            convention,
            new LinkRequest(straight.Shown, values, Style: SealedLinks.StyleOf(convention, read.Values), Existing: ExistingTags.Replace, FoundOn: foundOn),
            facts);

        var findings = new List<Notice>(reading.Notices);
        AddressFindings.Say(convention, given, convention.Settings with { Style = mended.Style }, facts, findings);
        if (read.Found.All(f => f.Value.Length == 0))
        {
            findings.Add(Notice.Of(NoticeRules.NoTags, null, "The link has no tags at all, so its visits will look direct; give it a placement and a campaign."));
        }

        if (unknownCode is not null)
        {
            findings.Add(Notice.Of(NoticeRules.SealedUnknown, null, $"“{unknownCode}” isn't a code of this workspace, so its visits can't be assigned; create the link again."));
        }

        var notices = ConventionComposer.Judged(convention, findings)
            .Concat(mended.Notices.Where(n => n.Rule != NoticeRules.TagsReplaced.Name))
            .DistinctBy(n => (n.Rule, n.Field))
            .OrderByDescending(n => n.Severity);
        return new InspectedLink(read.Untagged.Shown, mended, read.Others, [.. notices]);
    }

    /// <summary>Undoes what copying does to a query: a second question mark, HTML's ampersand, slips in keys, double encoding.</summary>
    private static Destination Straighten(Destination given, Convention convention)
    {
        if (given.Query is not { Length: > 0 } query)
        {
            return given;
        }

        string plain = query.Replace("&amp;", "&", StringComparison.OrdinalIgnoreCase).Replace('?', '&');
        return given with { Query = string.Join('&', RawPair.Split(plain).Select(p => Straighten(p, convention))) };
    }

    private static string Straighten(RawPair pair, Convention convention)
    {
        string key = pair.Key;
        var field = convention.Find(key) is { } known && !known.Label.Equals(key, StringComparison.OrdinalIgnoreCase) ? known : convention.NearestTo(key);
        if (field is null)
        {
            return pair.Raw;
        }

        string value = pair.Value;
        string once = DoubleEncoding.Undo(value) ?? value;
        return $"{PercentEncoding.EncodeValue(field.Key)}={PercentEncoding.EncodeValue(once, convention.Settings.Live)}";
    }
}

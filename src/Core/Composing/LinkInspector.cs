using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing;

/// <summary>Reads any tagged URL back into fields, judges it, and writes it as the convention would.</summary>
public static class LinkInspector
{
    /// <summary>Inspects a URL as a person pasted it.</summary>
    /// <param name="convention">The convention to judge by.</param>
    /// <param name="url">The URL.</param>
    /// <param name="facts">What is known about the outside; sealed codes must be looked up before.</param>
    /// <param name="foundOn">Host and port of the page it stands on, or null when it is not known.</param>
    /// <param name="decodeTwice">
    /// True to mend values that look percent-encoded twice, as those of links in use most often were. False reads each value
    /// exactly as it was written, for it may have been typed like this, and offers the repair alone.
    /// </param>
    public static InspectedLink Inspect(Convention convention, string url, LinkFacts facts, string? foundOn = null, bool decodeTwice = true)
    {
        var reading = DestinationReader.Read(url);
        if (reading.Destination is not { } given)
        {
            return new InspectedLink(null, null, [], reading.Notices);
        }

        var straight = Straighten(given, convention, decodeTwice);
        var read = LinkReader.Read(straight, SealedLinks.TagsOf(convention));
        var values = SealedLinks.Unseal(convention, read.Values, facts, out string? unknownCode);
        var mended = LinkPipeline.Run(
            convention,
            new LinkRequest(
                "",
                values,
                Style: SealedLinks.StyleOf(convention, read.Values),
                Existing: ExistingTags.Replace,
                FoundOn: foundOn
            ),
            facts,
            new DestinationReading(straight, [])
        );

        var findings = new List<Notice>(reading.Notices);
        var asGiven = new LinkContext(convention, mended.Fields, findings)
        {
            Destination = given,
            Facts = facts,
            Settings = convention.Settings with { Style = mended.Style },
        };
        LinkContext.Run(LinkPipeline.AddressChecks, asGiven, findings);
        if (read.Found.All(f => f.Value.Length == 0))
        {
            findings.Add(
                Notice.Of(
                    NoticeRules.NoTags,
                    null,
                    "The link has no tags at all, so its visits will look direct; give it a placement and a campaign."
                )
            );
        }

        if (unknownCode is not null)
        {
            findings.Add(
                Notice.Of(
                    NoticeRules.SealedUnknown,
                    null,
                    $"“{unknownCode}” isn't a code of this workspace, so its visits can't be assigned; create the link again."
                )
            );
        }

        var notices = LinkPipeline
            .Judged(convention, findings)
            .Concat(mended.Notices.Where(n => n.Rule != NoticeRules.TagsReplaced.Name).Select(n => InUse(convention, n)))
            .DistinctBy(n => (n.Rule, n.Field))
            .OrderByDescending(n => n.Severity);
        var campaign = facts.Campaigns?.CampaignOf(mended.Fields);
        var placement = facts.Placements?.PlacementOf(mended.Fields);
        return new InspectedLink(read.Untagged.Shown, mended, read.Others, [.. notices])
        {
            Campaign = campaign,
            Placement = placement,
            Typed = TypedIn(convention, read.Untagged, mended.Fields, campaign, placement, facts),
        };
    }

    private static Dictionary<string, string> TypedIn(
        Convention convention,
        Destination page,
        IReadOnlyList<ComposedField> fields,
        CampaignChoice? campaign,
        PlacementChoice? placement,
        LinkFacts facts
    )
    {
        var bySelf = LinkPipeline
            .Run(
                convention,
                new LinkRequest("", new Dictionary<string, string>(), campaign, placement, Existing: ExistingTags.Replace),
                facts,
                new DestinationReading(page, [])
            )
            .Fields;
        return fields
            .Zip(bySelf)
            .Where(f => f.First.Value.Length > 0 && f.First.Value != f.Second.Value)
            .ToDictionary(f => f.First.Key, f => f.First.Value);
    }

    /// <summary>A wrong case or space is mended while it is typed; in a link in use it has split a campaign already (rule 4, ours).</summary>
    private static Notice InUse(Convention convention, Notice notice) =>
        (notice.Rule == NoticeRules.CaseChanged.Name || notice.Rule == NoticeRules.SpaceChanged.Name)
        && notice.Severity == Severity.Info
        && !convention.Severities.ContainsKey(notice.Rule)
            ? notice with
            {
                Severity = Severity.Warning,
            }
            : notice;

    /// <summary>Undoes what copying does to a query: a second question mark, HTML's ampersand, slips in keys, double encoding.</summary>
    private static Destination Straighten(Destination given, Convention convention, bool decodeTwice)
    {
        if (given.Query is not { Length: > 0 } query)
        {
            return given;
        }

        string plain = query.Replace("&amp;", "&", StringComparison.OrdinalIgnoreCase);
        plain = SecondQuestionMark.Mend(plain, convention) ?? plain;
        return given with { Query = string.Join('&', RawPair.Split(plain).Select(p => Straighten(p, convention, decodeTwice))) };
    }

    private static string Straighten(RawPair pair, Convention convention, bool decodeTwice)
    {
        if (convention.KeyMeant(pair.Key) is not { } field)
        {
            return pair.Raw;
        }

        string value = pair.Value;
        string once = decodeTwice ? DoubleEncoding.Undo(value) ?? value : value;
        return $"{PercentEncoding.EncodeValue(field.Key)}={PercentEncoding.EncodeValue(once, convention.Settings.Live)}";
    }
}

/// <summary>A tagged URL read back and judged.</summary>
/// <param name="Destination">The page without tags, as shown; null when the URL was refused.</param>
/// <param name="Mended">The link as the convention writes it, or null when the URL was refused.</param>
/// <param name="Others">The page's own pairs, decoded, in order.</param>
/// <param name="Notices">What is wrong with the URL as it was given, gravest first.</param>
public sealed record InspectedLink(
    string? Destination,
    ComposedLink? Mended,
    IReadOnlyList<KeyValuePair<string, string>> Others,
    IReadOnlyList<Notice> Notices
)
{
    /// <summary>The campaign its value belongs to, or null.</summary>
    public CampaignChoice? Campaign { get; init; }

    /// <summary>The placement that gives just such values, or null.</summary>
    public PlacementChoice? Placement { get; init; }

    /// <summary>Values by key that campaign and placement do not give by themselves, as somebody would have to type them.</summary>
    public IReadOnlyDictionary<string, string> Typed { get; init; } = new Dictionary<string, string>();
}

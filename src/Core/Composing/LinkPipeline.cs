using PreciseBeacon.Core.Composing.Checks;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing;

/// <summary>
/// Makes a link from page, campaign, placement and typed values, in five steps: read the page's address, resolve what gives each
/// field its value, normalise the values, check them, write the URL and check that. Nothing is looked up or stored; the same
/// request gives the same link.
/// </summary>
public static class LinkPipeline
{
    /// <summary>What can be told from the written fields.</summary>
    private static readonly Func<LinkContext, IEnumerable<Notice>>[] FieldChecks =
    [
        DateCheck.Run,
        NameCheck.Run,
        ChannelCheck.Run,
        RequiredCheck.Run,
        ChoiceCheck.Run,
        CampaignWords.Check,
        AskedCheck.Run,
        DateCheck.RunCampaign,
    ];

    /// <summary>What is wrong with an address as it was typed.</summary>
    internal static readonly Func<LinkContext, IEnumerable<Notice>>[] AddressChecks =
    [
        HostCheck.Run,
        PagePlaceholderCheck.Run,
        QueryCheck.Run,
        FragmentCheck.Run,
    ];

    /// <summary>What the place a link stands in, and the systems that will read it, do to its tags.</summary>
    private static readonly Func<LinkContext, IEnumerable<Notice>>[] PlaceChecks =
    [
        InsideSiteCheck.Run,
        ToolCheck.Run,
        ReadingSystemCheck.Run,
        MediumFormatCheck.Run,
    ];

    /// <summary>Composes one link.</summary>
    /// <param name="convention">The published convention.</param>
    /// <param name="request">What the link is made from.</param>
    /// <param name="facts">What is known about the outside.</param>
    public static ComposedLink Run(Convention convention, LinkRequest request, LinkFacts facts) =>
        Run(convention, request, facts, DestinationReader.Read(request.Destination));

    /// <summary>Composes one link whose page was read already.</summary>
    /// <param name="convention">The published convention.</param>
    /// <param name="request">What the link is made from; its destination is not looked at.</param>
    /// <param name="facts">What is known about the outside.</param>
    /// <param name="reading">The page, or why there is none.</param>
    public static ComposedLink Run(Convention convention, LinkRequest request, LinkFacts facts, DestinationReading reading)
    {
        var notices = new List<Notice>(reading.Notices);
        var settings = SettingsOf(convention, request, reading.Destination, facts);
        var read = reading.Destination is { } address ? LinkReader.Read(address, convention.Tags) : null;

        var link = Fields(
            convention,
            request,
            reading.Destination,
            settings.Existing == ExistingTags.Keep ? read?.Values : null,
            facts,
            notices
        ) with
        {
            Destination = reading.Destination,
            Settings = settings,
        };

        if (reading.Destination is { } destination)
        {
            link = link with { Tagged = TagWriter.Write(convention, destination, link.Fields, settings) };
            notices.AddRange(link.Tagged.Notices);
            LinkContext.Run(AddressChecks, link, notices);
            LinkContext.Run(PlaceChecks, link, notices);
            if (request.BehindShortLink)
            {
                notices.AddRange(UnfilledPlaceholderCheck.Run(link.Tagged.Url, settings.Live));
            }

            notices.AddRange(NoTagsCheck.Run(link));
        }

        return new ComposedLink(
            reading.Destination,
            read?.Untagged.Shown,
            link.Tagged,
            link.Fields,
            Judged(convention, notices),
            settings.Style
        );
    }

    /// <summary>Composes the tags alone, for a tool that puts them on links of its own.</summary>
    /// <param name="convention">The published convention.</param>
    /// <param name="request">What the tags are made from; its destination is not looked at.</param>
    /// <param name="facts">What is known about the outside.</param>
    public static Snippet RunSnippet(Convention convention, LinkRequest request, LinkFacts facts)
    {
        var notices = new List<Notice>();
        var link = Fields(convention, request, null, null, facts, notices) with { Destination = Snippet.AnyPage };
        LinkContext.Run(PlaceChecks, link, notices);
        var tagged = TagWriter.Write(
            convention,
            Snippet.AnyPage,
            link.Fields,
            convention.Settings with
            {
                Style = request.Style ?? request.Placement?.Style ?? convention.Settings.Style,
            }
        );
        if (tagged.ParameterText.Length == 0)
        {
            notices.Add(Notice.Of(NoticeRules.NoTags, null, "There are no tags yet; choose a placement and a campaign."));
        }

        return new Snippet(
            tagged.ParameterText,
            PercentEncoding.EncodeValue(tagged.ParameterText, convention.Settings.Live),
            link.Fields,
            Judged(convention, notices)
        );
    }

    /// <summary>Writes the values a link was made with and judges them, under any convention, without building its URL again.</summary>
    /// <param name="convention">The convention to judge by.</param>
    /// <param name="values">Written values by key, as the link has them.</param>
    /// <param name="channel">The channel of the link's placement, or null.</param>
    /// <param name="urlBehindShortLink">The URL that its short link opens, where what a platform puts behind it is dropped; else null.</param>
    /// <returns>The fields in the convention's order, and the notices, gravest first.</returns>
    public static (IReadOnlyList<ComposedField> Fields, IReadOnlyList<Notice> Notices) Judge(
        Convention convention,
        IReadOnlyDictionary<string, string> values,
        string? channel,
        string? urlBehindShortLink = null
    )
    {
        var notices = new List<Notice>();
        var given = new GivenValue[convention.Fields.Count];
        Array.Fill(given, new GivenValue("", ValueOrigin.Address));
        foreach (var (key, value) in values)
        {
            if (convention.PlaceOf(key) is var at and >= 0)
            {
                given[at] = new GivenValue(value, ValueOrigin.Address);
            }
            else
            {
                notices.Add(
                    Notice.Of(NoticeRules.FieldUnknown, key, $"The convention has no field “{key}” any more; don't use it in new links.")
                );
            }
        }

        var set = FieldSet.Write(convention, given, null, channel, null, notices);
        LinkContext.Run(
            FieldChecks,
            new LinkContext(convention, set.Fields, notices) { MeantChannel = channel, NameChannel = set.NameChannel },
            notices
        );

        // A retired word stays valid on links that exist; only new ones are refused.
        notices.RemoveAll(n => n.Rule == NoticeRules.WordRetired.Name);
        if (urlBehindShortLink is not null)
        {
            notices.AddRange(UnfilledPlaceholderCheck.Run(urlBehindShortLink, convention.Settings.Live | PlaceholderShapes.MergeTags));
        }

        return (set.Fields, Judged(convention, notices));
    }

    /// <summary>Notices with the severities the owner has set, gravest first.</summary>
    public static IReadOnlyList<Notice> Judged(Convention convention, IReadOnlyCollection<Notice> notices) =>
        notices.Count == 0
            ? []
            :
            [
                .. notices
                    .Select(n => convention.Severities.TryGetValue(n.Rule, out var severity) ? n with { Severity = severity } : n)
                    .OrderByDescending(n => n.Severity),
            ];

    /// <summary>How this link is written: as it is asked for, as its placement needs it, as its site reads it, as the convention says.</summary>
    private static LinkSettings SettingsOf(Convention convention, LinkRequest request, Destination? destination, LinkFacts facts) =>
        convention.Settings with
        {
            Existing = request.Existing ?? convention.Settings.Existing,
            Style = request.Style ?? request.Placement?.Style ?? StyleOf(destination, facts) ?? convention.Settings.Style,
        };

    private static TagStyle? StyleOf(Destination? destination, LinkFacts facts) =>
        destination is not null && facts.OwnHosts.TryGetValue(destination.HostAndPort, out var style) && style != TagStyle.Query
            ? style
            : null;

    /// <summary>Resolves, normalises and checks the fields.</summary>
    private static LinkContext Fields(
        Convention convention,
        LinkRequest request,
        Destination? destination,
        IReadOnlyDictionary<string, string>? kept,
        LinkFacts facts,
        List<Notice> notices
    )
    {
        var given = GivenValues.Resolve(convention, request, destination, kept, facts, notices);
        string? channel = request.Placement?.Channel;
        var set = FieldSet.Write(convention, given, request.Campaign, channel, facts.Today, notices);
        var link = new LinkContext(convention, set.Fields, notices)
        {
            Campaign = request.Campaign,
            Placement = request.Placement,
            MeantChannel = channel,
            NameChannel = set.NameChannel,
            Today = facts.Today,
            Facts = facts,
            FoundOn = request.FoundOn,
        };
        LinkContext.Run(FieldChecks, link, notices);
        return link;
    }
}

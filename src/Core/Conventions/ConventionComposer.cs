using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Conventions;

/// <summary>Works out a link from page, campaign, placement and typed values: the words follow from the convention.</summary>
public static class ConventionComposer
{
    /// <summary>Composes one link. Nothing is looked up or stored; the same request gives the same link.</summary>
    /// <param name="convention">The published convention.</param>
    /// <param name="request">What the link is made from.</param>
    /// <param name="facts">What is known about the outside.</param>
    public static ComposedLink Compose(Convention convention, LinkRequest request, LinkFacts facts)
    {
        var notices = new List<Notice>();
        var reading = DestinationReader.Read(request.Destination);
        notices.AddRange(reading.Notices);

        var settings = convention.Settings with
        {
            Existing = request.Existing ?? convention.Settings.Existing,
            Style = request.Style ?? request.Placement?.Style ?? StyleOf(reading.Destination, facts) ?? convention.Settings.Style,
        };
        var kept = settings.Existing == ExistingTags.Keep && reading.Destination is { } carrier
            ? LinkReader.Read(carrier, convention.Tags).Values
            : null;
        var fields = Fields(convention, request, reading.Destination, kept, facts, notices);

        TaggedUrl? tagged = null;
        if (reading.Destination is { } destination)
        {
            tagged = Tagger.Tag(convention, destination, fields, settings);
            notices.AddRange(tagged.Notices);
            AddressFindings.Say(convention, destination, settings, facts, notices);
            PlaceFindings.Say(convention, destination, fields, request, facts, notices);
            if (request.BehindShortLink)
            {
                PlaceFindings.SayIfUnfilled(tagged.Url, settings.Live, notices);
            }

            if (fields.All(f => f.Value.Length == 0) && tagged.Found.Count == 0)
            {
                notices.Add(Notice.Of(NoticeRules.NoTags, null, "The link has no tags at all, so its visits will look direct; choose a placement and a campaign."));
            }
        }

        return new ComposedLink(reading.Destination, tagged, fields, Judged(convention, notices), settings.Style);
    }

    /// <summary>Works out the tags alone, for a tool that puts them on links of its own.</summary>
    /// <param name="convention">The published convention.</param>
    /// <param name="request">What the tags are made from; its destination is not looked at.</param>
    /// <param name="facts">What is known about the outside.</param>
    public static Snippet ComposeSnippet(Convention convention, LinkRequest request, LinkFacts facts)
    {
        var notices = new List<Notice>();
        var fields = Fields(convention, request, null, null, facts, notices);
        PlaceFindings.Say(convention, Snippet.AnyPage, fields, request, facts, notices);
        var tagged = Tagger.Tag(convention, Snippet.AnyPage, fields, convention.Settings with { Style = request.Style ?? request.Placement?.Style ?? convention.Settings.Style });
        if (tagged.ParameterText.Length == 0)
        {
            notices.Add(Notice.Of(NoticeRules.NoTags, null, "There are no tags yet; choose a placement and a campaign."));
        }

        return new Snippet(tagged.ParameterText, PercentEncoding.EncodeValue(tagged.ParameterText, convention.Settings.Live), fields, Judged(convention, notices));
    }

    private static IReadOnlyList<ComposedField> Fields(
        Convention convention, LinkRequest request, Destination? destination, IReadOnlyDictionary<string, string>? kept, LinkFacts facts, List<Notice> notices)
    {
        var typed = TypedByKey(convention, request.Fields, notices);
        var given = convention.Fields.Select(field =>
            kept is not null && kept.TryGetValue(field.Key, out string? keptValue) && keptValue.Length > 0
                ? (keptValue, ValueOrigin.Address)
                : Given(convention, field, typed, request, destination, facts, notices)).ToList();
        if (facts.Campaigns is { } campaigns)
        {
            given = [.. convention.Fields.Zip(given, (field, g) => g.Item2 == ValueOrigin.Campaign ? g : (campaigns.Resolve(field, g.Item1, notices), g.Item2))];
        }

        var fields = FieldsComposer.Compose(convention, given, request.Campaign, request.Placement?.Channel, facts.Today, notices);
        facts.Campaigns?.SayIfNear(fields, notices);
        SayWhatIsAsked(convention, fields, request.Placement, notices);
        SayIfOutsideDates(request.Campaign, facts, notices);
        return fields;
    }

    /// <summary>Notices with the severities the owner has set, gravest first.</summary>
    public static IReadOnlyList<Notice> Judged(Convention convention, IEnumerable<Notice> notices) =>
        [.. notices
            .Select(n => convention.Severities.TryGetValue(n.Rule, out var severity) ? n with { Severity = severity } : n)
            .OrderByDescending(n => n.Severity)];

    private static Dictionary<string, string> TypedByKey(Convention convention, IReadOnlyDictionary<string, string> given, List<Notice> notices)
    {
        var typed = new Dictionary<string, string>(given.Count, StringComparer.Ordinal);
        foreach (var (name, value) in given)
        {
            if (convention.Find(name) is { } field)
            {
                typed[field.Key] = value;
                continue;
            }

            var near = convention.NearestTo(name);
            notices.Add(Notice.Of(
                NoticeRules.FieldUnknown, null,
                $"The convention has no field “{name}”" + (near is null ? "; remove it or ask an owner to add it." : $"; did you mean “{near.Key}”?")));
        }

        return typed;
    }

    private static TagStyle? StyleOf(Destination? destination, LinkFacts facts) =>
        destination is not null && facts.OwnHosts.TryGetValue(destination.HostAndPort, out var style) && style != TagStyle.Query ? style : null;

    private static (string Given, ValueOrigin From) Given(
        Convention convention, Field field, Dictionary<string, string> typed, LinkRequest request, Destination? destination, LinkFacts facts, List<Notice> notices)
    {
        if (typed.TryGetValue(field.Key, out string? value) && (value.Length > 0 || field.Kind == FieldKind.Text))
        {
            return (value, ValueOrigin.Typed);
        }

        if (request.Placement is { } placement && StandingOf(convention, placement, field) is { Length: > 0 } standing)
        {
            var (filled, missing) = DefaultValue.Fill(standing, request, destination, facts.Today);
            if (missing.Count == 0)
            {
                return (filled, ValueOrigin.Placement);
            }

            notices.Add(Notice.Of(
                NoticeRules.StandingUnfilled, field.Key,
                $"{field.Label}: “{placement.Name}” needs “{missing[0]}”, which is missing here; choose a campaign that has it, or type {field.Label}."));
            return ("", ValueOrigin.None);
        }

        if (field.Kind == FieldKind.Date)
        {
            return request.Campaign?.Starts is { } starts
                ? (DateText.Write(starts, field.DateForm), ValueOrigin.Campaign)
                : (DateText.Write(facts.Today, field.DateForm), ValueOrigin.Today);
        }

        return field.Kind == FieldKind.Text && request.Campaign is { } campaign && convention.KeyOf(FieldMeaning.Campaign) == field.Key
            ? (campaign.Value, ValueOrigin.Campaign)
            : ("", ValueOrigin.None);
    }

    /// <summary>Standing values stay with their field when its key is renamed.</summary>
    private static string? StandingOf(Convention convention, PlacementChoice placement, Field field)
    {
        if (placement.Standing.TryGetValue(field.Key, out string? value))
        {
            return value;
        }

        foreach (var (name, standing) in placement.Standing)
        {
            if (convention.Find(name)?.Key == field.Key)
            {
                return standing;
            }
        }

        return null;
    }

    /// <summary>A placement may want a field typed for each link, whatever the convention says of it.</summary>
    private static void SayWhatIsAsked(Convention convention, IReadOnlyList<ComposedField> fields, PlacementChoice? placement, List<Notice> notices)
    {
        if (placement?.Asks is not { Count: > 0 } asks)
        {
            return;
        }

        for (int i = 0; i < fields.Count; i++)
        {
            var field = convention.Fields[i];
            if (fields[i].Value.Length == 0 && asks.Any(a => convention.Find(a)?.Key == field.Key)
                && !notices.Any(n => n.Field == field.Key && n.Severity == Severity.Error))
            {
                string example = field.Example is null ? "" : $", such as “{field.Example}”";
                notices.Add(Notice.Of(NoticeRules.MissingRequired, field.Key, $"{field.Label} is missing; “{placement.Name}” asks for it each time{example}."));
            }
        }
    }

    private static void SayIfOutsideDates(CampaignChoice? campaign, LinkFacts facts, List<Notice> notices)
    {
        if (campaign?.Ends is { } last && last < facts.Today)
        {
            notices.Add(Notice.Of(NoticeRules.OutsideCampaignDates, null, $"“{campaign.Name}” ended on {DateText.Say(last)}; choose another campaign if this link is for later."));
        }
    }
}

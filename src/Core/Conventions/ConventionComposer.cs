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
        var typed = TypedByKey(convention, request.Fields, notices);
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

        var fields = new List<ComposedField>(convention.Fields.Count);
        foreach (var field in convention.Fields)
        {
            if (kept is not null && kept.TryGetValue(field.Key, out string? keptValue) && keptValue.Length > 0)
            {
                fields.Add(new ComposedField(field.Key, field.Label, keptValue, ValueOrigin.Address, []));
                continue;
            }

            var (given, from) = Given(field, typed, request);
            fields.Add(FieldComposer.Compose(field, given, from, notices));
        }

        SourceMediumFindings.Say(convention, fields, request.Placement?.Channel, notices);
        SayIfOutsideDates(request.Campaign, facts, notices);

        TaggedUrl? tagged = null;
        if (reading.Destination is { } destination)
        {
            var tags = convention.Fields.Select((f, i) => f.ToTag(Sendable(fields[i].Value))).ToList();
            tagged = LinkComposer.Compose(destination, tags, settings);
            notices.AddRange(tagged.Notices);
            AddressFindings.Say(convention, destination, settings, facts, notices);
            if (tags.All(t => t.Value.Length == 0) && tagged.Found.Count == 0)
            {
                notices.Add(Notice.Of(NoticeRules.NoTags, null, "The link has no tags at all, so its visits will look direct; choose a placement and a campaign."));
            }
        }

        return new ComposedLink(
            reading.Destination,
            tagged,
            fields,
            [.. notices.OrderByDescending(n => n.Severity)],
            settings.Style);
    }

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
                $"The convention has no field “{name}”" + (near is null ? "; leave it out or have the owner add it." : $"; did you mean “{near.Key}”?")));
        }

        return typed;
    }

    private static TagStyle? StyleOf(Destination? destination, LinkFacts facts) =>
        destination is not null && facts.OwnHosts.TryGetValue(destination.HostAndPort, out var style) ? style : null;

    private static (string Given, ValueOrigin From) Given(Field field, Dictionary<string, string> typed, LinkRequest request)
    {
        if (typed.TryGetValue(field.Key, out string? value))
        {
            return (value, ValueOrigin.Typed);
        }

        if (request.Placement?.Standing.TryGetValue(field.Key, out value) == true && value.Length > 0)
        {
            return (value, ValueOrigin.Placement);
        }

        return field.Key == StandardKeys.Campaign && request.Campaign is { } campaign
            ? (campaign.Value, ValueOrigin.Campaign)
            : ("", ValueOrigin.None);
    }

    /// <summary>A value with half a character stops the link, but its URL is still shown, with the replacement character.</summary>
    private static string Sendable(string value)
    {
        foreach (char c in value)
        {
            if (char.IsSurrogate(c))
            {
                return string.Concat(value.EnumerateRunes().Select(r => r.ToString()));
            }
        }

        return value;
    }

    private static void SayIfOutsideDates(CampaignChoice? campaign, LinkFacts facts, List<Notice> notices)
    {
        if (campaign?.Ends < facts.Today)
        {
            notices.Add(Notice.Of(NoticeRules.OutsideCampaignDates, null, $"“{campaign.Name}” ended on {campaign.Ends:yyyy-MM-dd}; choose another campaign if this link is for later."));
        }
    }
}

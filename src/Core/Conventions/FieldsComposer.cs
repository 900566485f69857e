using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Conventions;

/// <summary>Writes all fields of one link: first those that stand alone, then those put together from them, then what they say together.</summary>
public static class FieldsComposer
{
    /// <summary>Writes the fields and says what is to say about them.</summary>
    /// <param name="convention">The convention.</param>
    /// <param name="given">What was given for each field, in the convention's order; empty for nothing.</param>
    /// <param name="campaign">The campaign, or null.</param>
    /// <param name="placementChannel">The channel of the placement, or null.</param>
    /// <param name="today">Today in the workspace's zone; null when an old link is judged, whose day is not known.</param>
    /// <param name="notices">Receives the notices.</param>
    /// <returns>The fields in the convention's order.</returns>
    public static IReadOnlyList<ComposedField> Compose(
        Convention convention,
        IReadOnlyList<(string Given, ValueOrigin From)> given,
        CampaignChoice? campaign,
        string? placementChannel,
        DateOnly? today,
        ICollection<Notice> notices)
    {
        var fields = new ComposedField[convention.Fields.Count];
        bool composes = false;
        for (int i = 0; i < fields.Length; i++)
        {
            var field = convention.Fields[i];
            composes |= field.Kind == FieldKind.Composed;
            fields[i] = field.Kind == FieldKind.Composed
                ? new ComposedField(field.Key, field.Label, "", ValueOrigin.None, [])
                : FieldComposer.Compose(field, given[i].Given, given[i].From, notices);
            if (field.Kind == FieldKind.Date)
            {
                DateFindings.Say(field, fields[i], campaign, notices);
            }
        }

        if (composes)
        {
            string? channel = placementChannel ?? ChannelFindings.ClaimOf(convention, fields)?.Name;
            for (int i = 0; i < fields.Length; i++)
            {
                if (convention.Fields[i].Kind == FieldKind.Composed)
                {
                    fields[i] = NameFindings.Compose(convention, convention.Fields[i], given[i], fields, campaign, channel, today, notices);
                }
            }
        }

        var claim = ChannelFindings.Say(convention, fields, placementChannel, notices);
        SayWhatIsMissing(convention, fields, KnownChannel(convention, placementChannel) ?? claim?.Name, notices);
        ChoiceFindings.Say(convention, fields, notices);
        return fields;
    }

    private static string? KnownChannel(Convention convention, string? name) =>
        name is null ? null : convention.Channels.Rows.FirstOrDefault(r => r.Name == name)?.Name;

    private static void SayWhatIsMissing(Convention convention, ComposedField[] fields, string? channel, ICollection<Notice> notices)
    {
        for (int i = 0; i < fields.Length; i++)
        {
            var field = convention.Fields[i];
            if (fields[i].Value.Length > 0 || field.PresenceFor(channel) != Presence.Required
                || notices.Any(n => n.Field == field.Key && (n.Rule == NoticeRules.PartMissing.Name || n.Rule == NoticeRules.DateUnreadable.Name)))
            {
                continue;
            }

            string example = field.Example is null ? "" : $", such as “{field.Example}”";
            string who = field.Presence == Presence.Required ? "every link" : $"every link of “{channel}”";
            notices.Add(Notice.Of(
                NoticeRules.MissingRequired, field.Key, $"{field.Label} is missing; {who} needs one{example}.",
                field.Kind == FieldKind.Fixed ? new Repair(field.Key, field.Fixed, $"Use {field.Fixed}") : null));
        }
    }
}

using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Conventions;

/// <summary>What source and medium say together: whether they look swapped, and which channel claims them.</summary>
internal static class ChannelFindings
{
    /// <summary>The channel that claims a link with these values; null when none does.</summary>
    public static Channel? ClaimOf(Convention convention, IReadOnlyList<ComposedField> fields) => convention.Channels.ClaimOf(ChannelFacts.OfLink(
        ValueOf(convention, fields, FieldMeaning.Source), ValueOf(convention, fields, FieldMeaning.Medium), ValueOf(convention, fields, FieldMeaning.Campaign)));

    /// <summary>Adds the notices about channels.</summary>
    /// <returns>The channel that claims the link; null without a medium, or when none does.</returns>
    public static Channel? Say(Convention convention, IReadOnlyList<ComposedField> fields, string? meant, ICollection<Notice> notices)
    {
        string source = ValueOf(convention, fields, FieldMeaning.Source);
        string medium = ValueOf(convention, fields, FieldMeaning.Medium);
        bool swapped = SayIfSwapped(convention, source, medium, notices);
        if (convention.Channels.Rows.Count == 0 || medium.Length == 0 || swapped)
        {
            return null;
        }

        string key = convention.KeyOf(FieldMeaning.Medium)!;
        var claim = ClaimOf(convention, fields);
        if (claim is null)
        {
            notices.Add(Notice.Of(
                NoticeRules.NoChannel, key,
                $"No channel matches source “{source}” with medium “{medium}”, so its visits will be Unsorted; use another medium, or ask an owner to add a channel."));
        }
        else if (meant is { Length: > 0 } && claim.Name != meant && convention.Channels.Rows.Any(r => r.Name == meant))
        {
            notices.Add(Notice.Of(
                NoticeRules.OtherChannel, key,
                $"The placement belongs to “{meant}”, but with medium “{medium}” its visits will count as “{claim.Name}”; check the medium."));
        }

        return claim;
    }

    private static bool SayIfSwapped(Convention convention, string source, string medium, ICollection<Notice> notices)
    {
        if (source.Length == 0 || medium.Length == 0
            || convention.Fields[convention.IndexOf(FieldMeaning.Source)].Words is not { } sources
            || convention.Fields[convention.IndexOf(FieldMeaning.Medium)].Words is not { } mediums
            || !sources.Knows(medium) || !mediums.Knows(source))
        {
            return false;
        }

        string key = convention.KeyOf(FieldMeaning.Source)!;
        notices.Add(Notice.Of(
            NoticeRules.SourceMediumSwapped, key, $"“{source}” is a medium and “{medium}” a source; the two look swapped."));
        return true;
    }

    private static string ValueOf(Convention convention, IReadOnlyList<ComposedField> fields, FieldMeaning meaning) =>
        convention.IndexOf(meaning) is var at and >= 0 ? fields[at].Value : "";
}

using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Conventions;

/// <summary>What source and medium say together: whether they look swapped, and which channel claims them.</summary>
internal static class SourceMediumFindings
{
    public static void Say(Convention convention, IReadOnlyList<ComposedField> fields, string? channel, ICollection<Notice> notices)
    {
        SayIfSwapped(convention, fields, notices);
        SayAboutChannel(convention, fields, channel, notices);
    }

    private static void SayIfSwapped(Convention convention, IReadOnlyList<ComposedField> fields, ICollection<Notice> notices)
    {
        int source = IndexOf(convention, StandardKeys.Source);
        int medium = IndexOf(convention, StandardKeys.Medium);
        if (source < 0 || medium < 0 || fields[source].Value.Length == 0 || fields[medium].Value.Length == 0)
        {
            return;
        }

        if (convention.Fields[source].Words is { } sources && convention.Fields[medium].Words is { } mediums
            && sources.Match(fields[medium].Value).Kind == WordMatchKind.Known
            && mediums.Match(fields[source].Value).Kind == WordMatchKind.Known)
        {
            notices.Add(Notice.Of(
                NoticeRules.SourceMediumSwapped, fields[source].Key,
                $"“{fields[source].Value}” is a medium and “{fields[medium].Value}” a source; the two look swapped."));
        }
    }

    private static void SayAboutChannel(Convention convention, IReadOnlyList<ComposedField> fields, string? meant, ICollection<Notice> notices)
    {
        string source = ValueOf(StandardKeys.Source);
        string medium = ValueOf(StandardKeys.Medium);
        if (convention.Channels.Rows.Count == 0 || medium.Length == 0 || notices.Any(n => n.Rule == NoticeRules.SourceMediumSwapped.Name))
        {
            return;
        }

        var claim = convention.Channels.ClaimOf(ChannelFacts.OfLink(source, medium, ValueOf(StandardKeys.Campaign)));
        if (claim is null)
        {
            notices.Add(Notice.Of(
                NoticeRules.NoChannel, StandardKeys.Medium,
                $"No channel claims source “{source}” with medium “{medium}”, so its visits will be unsorted; use another medium, or have the owner add a channel."));
        }
        else if (meant is { Length: > 0 } && convention.Channels.Rows.Any(r => r.Name == meant) && claim.Name != meant)
        {
            notices.Add(Notice.Of(
                NoticeRules.OtherChannel, StandardKeys.Medium,
                $"The placement belongs to “{meant}”, but with medium “{medium}” its visits will count as “{claim.Name}”; check the medium."));
        }

        string ValueOf(string key) => IndexOf(convention, key) is var at and >= 0 ? fields[at].Value : "";
    }

    private static int IndexOf(Convention convention, string key)
    {
        for (int i = 0; i < convention.Fields.Count; i++)
        {
            if (convention.Fields[i].Key == key)
            {
                return i;
            }
        }

        return -1;
    }
}

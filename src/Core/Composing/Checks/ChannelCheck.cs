using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing.Checks;

/// <summary>What source and medium say together: whether they look swapped, and which channel claims them.</summary>
internal static class ChannelCheck
{
    public static IEnumerable<Notice> Run(LinkContext link)
    {
        string source = link.ValueOf(FieldMeaning.Source);
        string medium = link.ValueOf(FieldMeaning.Medium);
        if (IsSwapped(link))
        {
            yield return Notice.Of(
                NoticeRules.SourceMediumSwapped,
                link.Convention.KeyOf(FieldMeaning.Source)!,
                $"“{source}” is a medium and “{medium}” a source; the two look swapped."
            );
            yield break;
        }

        if (!IsJudged(link))
        {
            yield break;
        }

        string key = link.Convention.KeyOf(FieldMeaning.Medium)!;
        if (link.Claim is not { } claim)
        {
            yield return Notice.Of(
                NoticeRules.NoChannel,
                key,
                $"No channel matches source “{source}” with medium “{medium}”, so its visits will be Unsorted; use another medium, or ask an owner to add a channel."
            );
        }
        else if (
            link.MeantChannel is { Length: > 0 } meant
            && claim.Name != meant
            && link.Convention.Channels.Rows.Any(r => r.Name == meant)
        )
        {
            yield return Notice.Of(
                NoticeRules.OtherChannel,
                key,
                $"The placement belongs to “{meant}”, but with medium “{medium}” its visits will count as “{claim.Name}”; check the medium."
            );
        }
    }

    /// <summary>True where a channel can be told at all: there are channels, a medium, and it is not the source by mistake.</summary>
    public static bool IsJudged(LinkContext link) =>
        link.Convention.Channels.Rows.Count > 0 && link.ValueOf(FieldMeaning.Medium).Length > 0 && !IsSwapped(link);

    private static bool IsSwapped(LinkContext link)
    {
        string source = link.ValueOf(FieldMeaning.Source);
        string medium = link.ValueOf(FieldMeaning.Medium);
        return source.Length > 0
            && medium.Length > 0
            && link.Convention.Fields[link.Convention.IndexOf(FieldMeaning.Source)].Words is { } sources
            && link.Convention.Fields[link.Convention.IndexOf(FieldMeaning.Medium)].Words is { } mediums
            && sources.Knows(medium)
            && mediums.Knows(source);
    }
}

using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing.Checks;

/// <summary>A link lacks a field that every link, or every link of its channel, needs: then there is no link (error).</summary>
internal static class RequiredCheck
{
    public static IEnumerable<Notice> Run(LinkContext link)
    {
        string? channel = KnownChannel(link) ?? (ChannelCheck.IsJudged(link) ? link.Claim?.Name : null);
        for (int i = 0; i < link.Fields.Count; i++)
        {
            var field = link.Convention.Fields[i];
            if (
                link.Fields[i].Value.Length > 0
                || field.PresenceFor(channel) != Presence.Required
                || link.Said.Any(n =>
                    n.Field == field.Key && (n.Rule == NoticeRules.PartMissing.Name || n.Rule == NoticeRules.DateUnreadable.Name)
                )
            )
            {
                continue;
            }

            string example = field.Example is null ? "" : $", such as “{field.Example}”";
            string who = field.Presence == Presence.Required ? "every link" : $"every link of “{channel}”";
            yield return Notice.Of(
                NoticeRules.MissingRequired,
                field.Key,
                $"{field.Label} is missing; {who} needs one{example}.",
                field.Kind == FieldKind.Fixed ? new Repair(field.Key, field.Fixed, $"Use {field.Fixed}") : null
            );
        }
    }

    private static string? KnownChannel(LinkContext link) =>
        link.MeantChannel is { } name ? link.Convention.Channels.Rows.FirstOrDefault(r => r.Name == name)?.Name : null;
}

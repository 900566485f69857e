using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing.Checks;

/// <summary>A placement may want a field typed for each link, whatever the convention says of it.</summary>
internal static class AskedCheck
{
    public static IEnumerable<Notice> Run(LinkContext link)
    {
        if (link.Placement?.Asks is not { Count: > 0 } asks)
        {
            yield break;
        }

        for (int i = 0; i < link.Fields.Count; i++)
        {
            var field = link.Convention.Fields[i];
            if (
                link.Fields[i].Value.Length == 0
                && asks.Any(a => link.Convention.Find(a)?.Key == field.Key)
                && !link.Said.Any(n => n.Field == field.Key && n.Severity == Severity.Error)
            )
            {
                string example = field.Example is null ? "" : $", such as “{field.Example}”";
                yield return Notice.Of(
                    NoticeRules.MissingRequired,
                    field.Key,
                    $"{field.Label} is missing; “{link.Placement.Name}” asks for it each time{example}."
                );
            }
        }
    }
}

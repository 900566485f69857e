using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing.Checks;

/// <summary>A system that reads the tags of arriving visits passes over keys it doesn't understand.</summary>
internal static class ReadingSystemCheck
{
    public static IEnumerable<Notice> Run(LinkContext link) =>
        from system in link.Convention.ReadBy
        from field in link.Fields
        where field.Value.Length > 0 && !system.Keys.Contains(field.Key, StringComparer.OrdinalIgnoreCase)
        select Notice.Of(
            NoticeRules.KeyNotUnderstood,
            field.Key,
            $"{system.Name} doesn't read {field.Key}; {field.Label} will be missing there."
        );
}

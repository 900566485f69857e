using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing.Checks;

/// <summary>A tool that writes tags by itself overwrites the link's.</summary>
internal static class ToolCheck
{
    public static IEnumerable<Notice> Run(LinkContext link)
    {
        if (link.Placement?.ToolWrites is not { Count: > 0 } writes)
        {
            yield break;
        }

        var hit = new List<(string Key, string Writes)>();
        foreach (var (name, value) in writes)
        {
            var field = link.Convention.Find(name) is { } known ? link.Fields.FirstOrDefault(f => f.Key == known.Key) : null;
            if (field is { Value.Length: > 0 } && field.Value != value)
            {
                hit.Add((field.Key, value.Length == 0 ? field.Key : $"{field.Key}={value}"));
            }
        }

        if (hit.Count > 0)
        {
            yield return Notice.Of(
                NoticeRules.ToolOverwrites,
                hit[0].Key,
                $"The tool behind “{link.Placement.Name}” writes {string.Join(", ", hit.Select(h => h.Writes))} itself and would overwrite these tags; switch that off in the tool."
            );
        }
    }
}

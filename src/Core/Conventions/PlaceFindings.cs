using System.Text.RegularExpressions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.ShortLinks;

namespace PreciseBeacon.Core.Conventions;

/// <summary>What the place a link stands in, and the systems that will read it, make of its tags.</summary>
internal static partial class PlaceFindings
{
    public static void Say(
        Convention convention, Destination destination, IReadOnlyList<ComposedField> fields, LinkRequest request, LinkFacts facts, ICollection<Notice> notices)
    {
        SayIfInsideSite(convention, destination, fields, request, facts, notices);
        SayIfToolOverwrites(convention, fields, request.Placement, notices);
        SayIfNotUnderstood(convention, fields, notices);
        SayIfFormatInMedium(convention, fields, notices);
    }

    /// <summary>The redirect sends what was stored: a placeholder in it reaches the page unfilled.</summary>
    public static void SayIfUnfilled(string url, PlaceholderShapes live, ICollection<Notice> notices)
    {
        if (PlaceholdersBehind.FirstIn(url, live) is { } placeholder)
        {
            string way = PlaceholdersBehind.QueryOf(url, live) is null ? "" : ", or carry parameters through the short link";
            notices.Add(Notice.Of(NoticeRules.PlaceholderOnShortLink, null, $"“{placeholder}” is filled in only in the long link, not behind a short link; copy the long link{way}."));
        }
    }

    private static void SayIfInsideSite(
        Convention convention, Destination destination, IReadOnlyList<ComposedField> fields, LinkRequest request, LinkFacts facts, ICollection<Notice> notices)
    {
        if (!facts.OwnHosts.ContainsKey(destination.HostAndPort) || fields.All(f => f.Value.Length == 0))
        {
            return;
        }

        string source = convention.IndexOf(FieldMeaning.Source) is var at and >= 0 ? fields[at].Value : "";
        bool inside = (request.FoundOn is { } host && facts.OwnHosts.ContainsKey(host)) || facts.OwnHosts.ContainsKey(source);
        if (inside)
        {
            notices.Add(Notice.Of(
                NoticeRules.TagInsideSite, null,
                "The link leads from one of your pages to another; its tags would overwrite the visitor's real source: use it without tags."));
        }
    }

    private static void SayIfToolOverwrites(Convention convention, IReadOnlyList<ComposedField> fields, PlacementChoice? placement, ICollection<Notice> notices)
    {
        if (placement?.ToolWrites is not { Count: > 0 } writes)
        {
            return;
        }

        var hit = new List<(string Key, string Writes)>();
        foreach (var (name, value) in writes)
        {
            var field = convention.Find(name) is { } known ? fields.FirstOrDefault(f => f.Key == known.Key) : null;
            if (field is { Value.Length: > 0 } && field.Value != value)
            {
                hit.Add((field.Key, value.Length == 0 ? field.Key : $"{field.Key}={value}"));
            }
        }

        if (hit.Count > 0)
        {
            notices.Add(Notice.Of(
                NoticeRules.ToolOverwrites, hit[0].Key,
                $"The tool behind “{placement.Name}” writes {string.Join(", ", hit.Select(h => h.Writes))} itself and would overwrite these tags; switch that off in the tool."));
        }
    }

    private static void SayIfNotUnderstood(Convention convention, IReadOnlyList<ComposedField> fields, ICollection<Notice> notices)
    {
        foreach (var system in convention.ReadBy)
        {
            foreach (var field in fields)
            {
                if (field.Value.Length > 0 && !system.Keys.Contains(field.Key, StringComparer.OrdinalIgnoreCase))
                {
                    notices.Add(Notice.Of(NoticeRules.KeyNotUnderstood, field.Key, $"{system.Name} doesn't read {field.Key}; {field.Label} will be missing there."));
                }
            }
        }
    }

    private static void SayIfFormatInMedium(Convention convention, IReadOnlyList<ComposedField> fields, ICollection<Notice> notices)
    {
        if (convention.IndexOf(FieldMeaning.Medium) is not (var at and >= 0) || fields[at].Value.Length < 3 || !Format().IsMatch(fields[at].Value))
        {
            return;
        }

        notices.Add(Notice.Of(
            NoticeRules.FormatInMedium, fields[at].Key,
            $"{fields[at].Label}: “{fields[at].Value}” contains a format or size, which splits one kind of traffic into many; put it into a field of its own."));
    }

    /// <summary>Sizes such as 300x250, and the usual words for formats of advertisements (common practice).</summary>
    [GeneratedRegex(@"(?<![0-9])[0-9]{2,4}\s*[x×]\s*[0-9]{2,4}(?![0-9])|(?<![a-z])(gif|jpe?g|png|mp4|webm|html5|carousel|leaderboard|skyscraper)(?![a-z])", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex Format();
}

using System.Text.RegularExpressions;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing.Checks;

/// <summary>A format or size in the medium splits one kind of traffic into many.</summary>
internal static partial class MediumFormatCheck
{
    private const int ShortestFormat = 3;

    public static IEnumerable<Notice> Run(LinkContext link)
    {
        if (link.ValueOf(FieldMeaning.Medium) is { Length: >= ShortestFormat } medium && Format().IsMatch(medium))
        {
            var field = link.Fields[link.Convention.IndexOf(FieldMeaning.Medium)];
            yield return Notice.Of(
                NoticeRules.FormatInMedium,
                field.Key,
                $"{field.Label}: “{medium}” contains a format or size, which splits one kind of traffic into many; put it into a field of its own."
            );
        }
    }

    /// <summary>Sizes such as 300x250, and the usual words for formats of advertisements (common practice).</summary>
    [GeneratedRegex(
        @"(?<![0-9])[0-9]{2,4}\s*[x×]\s*[0-9]{2,4}(?![0-9])|(?<![a-z])(gif|jpe?g|png|mp4|webm|html5|carousel|leaderboard|skyscraper)(?![a-z])",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Format();
}

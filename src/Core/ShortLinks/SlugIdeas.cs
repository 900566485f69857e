using System.Globalization;
using System.Text;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.ShortLinks;

/// <summary>Slugs that somebody could choose, made from what a link is about (ours): short enough to be typed, in words that say where it leads.</summary>
public static class SlugIdeas
{
    /// <summary>Most characters of an idea; what is longer is not typed off paper.</summary>
    private const int Longest = 24;

    private static readonly HashSet<string> Small =
    [
        "a",
        "an",
        "and",
        "at",
        "by",
        "for",
        "from",
        "in",
        "of",
        "on",
        "or",
        "the",
        "to",
        "with",
        "html",
        "htm",
        "php",
        "aspx",
        "index",
        "www",
    ];

    /// <summary>Ideas in the order they should be offered: from the page, from the campaign, with the year, with the placement.</summary>
    /// <param name="page">The page's path, such as <c>/whats-on/lantern-nights</c>.</param>
    /// <param name="campaign">The campaign's name, or null.</param>
    /// <param name="placement">The placement's name, or null.</param>
    /// <param name="today">Today in the workspace's zone.</param>
    /// <returns>Each once; none is refused by <see cref="SlugMaker.WhyNotChosen"/>. Whether one is taken is for the caller to see.</returns>
    public static IReadOnlyList<string> Of(string page, string? campaign, string? placement, DateOnly today)
    {
        string[] pageWords = Words(PercentEncoding.Decode(page.Trim('/').Split('/')[^1]));
        string[] campaignWords = Words(campaign ?? "");
        string[] placementWords = Words(placement ?? "");
        string[] main = pageWords.Length > 0 ? pageWords : campaignWords;
        string year = (today.Year % 100).ToString("00", CultureInfo.InvariantCulture);
        IEnumerable<string> ideas =
        [
            Join(pageWords),
            Join(campaignWords),
            main.FirstOrDefault() ?? "",
            Join([.. main, year]),
            Join([.. main.Take(1), year]),
            Join([.. main.Take(1), .. placementWords.Take(1)]),
            Join([.. main, .. placementWords.Take(1)]),
            Join([.. main.Take(2), .. placementWords.Take(2)]),
            Initials(main) is { Length: > 2 } initials ? initials + year : "",
        ];
        return [.. ideas.Where(i => i.Length is > 2 and <= Longest && SlugMaker.WhyNotChosen(i) is null).Distinct()];
    }

    private static string Join(string[] words)
    {
        string joined = string.Join('-', words);
        return joined.Length <= Longest ? joined : string.Join('-', words.Take(2));
    }

    private static string Initials(string[] words) => string.Concat(words.Select(w => w[0]));

    /// <summary>The words of a text in a–z and digits, accents left out, small words too.</summary>
    private static string[] Words(string text)
    {
        var plain = new StringBuilder();
        foreach (
            char c in text.Replace("’", "", StringComparison.Ordinal)
                .Replace("'", "", StringComparison.Ordinal)
                .Normalize(NormalizationForm.FormD)
                .ToLowerInvariant()
        )
        {
            if (char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c))
            {
                plain.Append(c);
            }
            else if (CharUnicodeInfo.GetUnicodeCategory(c) != UnicodeCategory.NonSpacingMark)
            {
                plain.Append(' ');
            }
        }

        return [.. plain.ToString().Split(' ', StringSplitOptions.RemoveEmptyEntries).Where(w => !Small.Contains(w))];
    }
}

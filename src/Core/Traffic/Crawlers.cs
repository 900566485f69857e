using System.Collections.Concurrent;
using System.Text.Json;
using System.Text.RegularExpressions;

namespace PreciseBeacon.Core.Traffic;

/// <summary>Recognises known crawlers by their user agent, from the open data set crawler-user-agents (MIT).</summary>
public static class Crawlers
{
    private const int MostRemembered = 20_000;

    private const string PreviewTag = "social-preview";

    private static readonly Regex Pattern = Load(static _ => true);

    private static readonly Lazy<Regex> PreviewPattern = new(() => Load(static tags => tags.Contains(PreviewTag)));

    // The same few thousand user agents come again and again; the large expression is asked once for each.
    private static readonly ConcurrentDictionary<string, bool> Remembered = new(StringComparer.Ordinal);

    /// <summary>True for a known crawler; an empty user agent counts as one, since no browser sends none.</summary>
    public static bool IsCrawler(string userAgent)
    {
        if (string.IsNullOrWhiteSpace(userAgent))
        {
            return true;
        }

        if (Remembered.TryGetValue(userAgent, out bool known))
        {
            return known;
        }

        bool crawler = Pattern.IsMatch(userAgent);
        if (Remembered.Count < MostRemembered)
        {
            Remembered[userAgent] = crawler;
        }

        return crawler;
    }

    /// <summary>True for one that fetches a page only to show a preview of it, in a chat or on a network.</summary>
    public static bool IsPreview(string userAgent) => PreviewPattern.Value.IsMatch(userAgent);

    private static Regex Load(Func<IEnumerable<string?>, bool> wanted)
    {
        using var stream = typeof(Crawlers).Assembly.GetManifestResourceStream("crawler-user-agents.json")
            ?? throw new InvalidOperationException("The crawler data set is not embedded.");
        using var document = JsonDocument.Parse(stream);
        var patterns = document.RootElement.EnumerateArray()
            .Where(e => wanted(e.TryGetProperty("tags", out var tags) ? tags.EnumerateArray().Select(t => t.GetString()) : []))
            .Select(e => e.GetProperty("pattern").GetString());
        return new Regex(string.Join('|', patterns), RegexOptions.CultureInvariant, TimeSpan.FromSeconds(1));
    }
}

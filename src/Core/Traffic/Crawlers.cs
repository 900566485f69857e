using System.Collections.Concurrent;
using System.Text.Json;
using System.Text.RegularExpressions;

namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// Recognises crawlers by their user agent: known ones from the open data set crawler-user-agents (MIT), and others by what
/// programs say of themselves and browsers do not.
/// </summary>
public static partial class Crawlers
{
    private const int MostRemembered = 20_000;

    private const string PreviewTag = "social-preview";

    private static readonly Regex Pattern = Load(static _ => true);

    private static readonly Lazy<Regex> PreviewPattern = new(() => Load(static tags => tags.Contains(PreviewTag)));

    // The same few thousand user agents come again and again; the large expression is asked once for each.
    private static readonly ConcurrentDictionary<string, bool> Remembered = new(StringComparer.Ordinal);

    /// <summary>True for a crawler; an empty user agent counts as one, since no browser sends none.</summary>
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

        bool crawler = IsProgram(userAgent) || Pattern.IsMatch(userAgent);
        if (Remembered.Count < MostRemembered)
        {
            Remembered[userAgent] = crawler;
        }

        return crawler;
    }

    /// <summary>True for one that fetches a page only to show a preview of it, in a chat or on a network.</summary>
    public static bool IsPreview(string userAgent) => PreviewPattern.Value.IsMatch(userAgent);

    /// <summary>
    /// Whether it speaks like a program, known or not. Browsers all begin alike (common practice); programs name their work, or
    /// where their owner is reached, as RFC 9110 §10.1.2 and §10.1.5 ask robots to.
    /// </summary>
    public static bool IsProgram(string userAgent) =>
        !(userAgent.StartsWith("Mozilla/", StringComparison.Ordinal) || userAgent.StartsWith("Opera/", StringComparison.Ordinal)) || ProgramWords().IsMatch(userAgent);

    [GeneratedRegex(@"bot([/);:,+-]|$)|\b(ro)?bot\b|crawl|spider|fetch|scan|preview|monitor|checker|valid|archiv|feed|headless|https?://|\bwww\.|[\w.+-]+@[\w-]+\.[a-z]", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex ProgramWords();

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

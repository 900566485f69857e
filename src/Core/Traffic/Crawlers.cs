using System.Buffers;
using System.Text.Json;
using System.Text.RegularExpressions;

namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// Recognises crawlers by their user agent: known ones from the open data set crawler-user-agents (MIT), and others by what
/// programs say of themselves and browsers do not. Judging one never seen before takes some microseconds, whatever it says.
/// </summary>
public static class Crawlers
{
    /// <summary>Most characters of a user agent that are looked at and kept; browsers stay well under it (ours).</summary>
    public const int LongestUserAgent = 400;

    /// <summary>A site sees a few thousand user agents a day; 8,192 long ones take 7 MB (ours).</summary>
    private const int MostRemembered = 8_192;

    private const string PreviewTag = "social-preview";

    /// <summary>What programs call their work.</summary>
    private static readonly SearchValues<string> ProgramWords = SearchValues.Create(
        ["crawl", "spider", "fetch", "scan", "preview", "monitor", "checker", "valid", "archiv", "feed", "headless", "http://", "https://"],
        StringComparison.OrdinalIgnoreCase
    );

    /// <summary>Words that stand for a program only where a word ends, and addresses of its owner. Never backtracks, so that no text makes it slow.</summary>
    private static readonly Regex ProgramSigns = new(
        @"bot([/);:,+-]|$)|\b(ro)?bot\b|\bwww\.|[\w.+-]@[\w-]+\.[a-z]",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.NonBacktracking
    );

    private static readonly UserAgentPatterns Known = Load(static _ => true);

    private static readonly UserAgentPatterns Previews = Load(static tags => tags.Contains(PreviewTag));

    private static readonly RecentAnswers<bool> Remembered = new(MostRemembered, Judge);

    /// <summary>True for a crawler; an empty user agent counts as one, since no browser sends none.</summary>
    public static bool IsCrawler(string userAgent) => string.IsNullOrWhiteSpace(userAgent) || Remembered.For(Cut(userAgent));

    /// <summary>True for one that fetches a page only to show a preview of it, in a chat or on a network.</summary>
    public static bool IsPreview(string userAgent) => Previews.IsMatch(Cut(userAgent));

    /// <summary>
    /// Whether it speaks like a program, known or not. Browsers all begin alike (common practice); programs name their work, or
    /// where their owner is reached, as RFC 9110 §10.1.2 and §10.1.5 ask robots to.
    /// </summary>
    public static bool IsProgram(string userAgent) =>
        !(userAgent.StartsWith("Mozilla/", StringComparison.Ordinal) || userAgent.StartsWith("Opera/", StringComparison.Ordinal))
        || userAgent.AsSpan().ContainsAny(ProgramWords)
        || ProgramSigns.IsMatch(userAgent);

    /// <summary>A user agent as far as it is looked at and kept.</summary>
    public static string Cut(string userAgent) => userAgent.Length <= LongestUserAgent ? userAgent : userAgent[..LongestUserAgent];

    private static bool Judge(string userAgent) => IsProgram(userAgent) || Known.IsMatch(userAgent);

    private static UserAgentPatterns Load(Func<IEnumerable<string?>, bool> wanted)
    {
        using var stream = typeof(Crawlers).Assembly.GetManifestResourceStream("crawler-user-agents.json")
            ?? throw new InvalidOperationException("The crawler data set is not embedded.");
        using var document = JsonDocument.Parse(stream);
        return new UserAgentPatterns(
            document
                .RootElement.EnumerateArray()
                .Where(e => wanted(e.TryGetProperty("tags", out var tags) ? tags.EnumerateArray().Select(t => t.GetString()) : []))
                .Select(e => e.GetProperty("pattern").GetString()!)
        );
    }
}

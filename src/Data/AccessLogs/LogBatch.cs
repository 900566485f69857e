using System.Net;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Core.Traffic.AccessLogs;

namespace PreciseBeacon.Data.AccessLogs;

/// <summary>A line that is a page view of a person, as far as the line alone tells.</summary>
/// <param name="Day">Its day in the workspace's zone.</param>
/// <param name="Fingerprint">See <see cref="LogLineBook"/>.</param>
/// <param name="Client">The client's address, or the octets of its name.</param>
/// <param name="Address">The same as an address; null for a name.</param>
internal sealed record LogView(
    DateTimeOffset At,
    DateOnly Day,
    long Fingerprint,
    string Url,
    string Referrer,
    string UserAgent,
    byte[] Client,
    IPAddress? Address
);

/// <summary>What a site's log lines are read by.</summary>
/// <param name="Hosts">The site's hosts; the first is taken where a line names none.</param>
/// <param name="Scheme">What the site answers, <c>http</c> or <c>https</c>.</param>
/// <param name="FirstDay">The first day single visits are kept of.</param>
/// <param name="Until">Lines after this moment are of a time that has not come yet.</param>
/// <param name="Key">The key of the workspace's fingerprints.</param>
/// <param name="Rules">The workspace's rules.</param>
internal sealed record LogSite(
    IReadOnlyList<string> Hosts,
    string Scheme,
    DateOnly FirstDay,
    DateTimeOffset Until,
    byte[] Key,
    VisitRules Rules
);

/// <summary>Some lines of a log, sorted into page views and what is left out.</summary>
internal sealed class LogBatch(LogSite site)
{
    private const int LongestUrl = 8_000;
    private const int LongestReferrer = 1_000;
    private static readonly int SkipKinds = Enum.GetValues<LogLineSkip>().Length;

    private readonly long[] _skipped = new long[SkipKinds];

    /// <summary>Lines looked at.</summary>
    public int Lines { get; private set; }

    /// <summary>The page views, in the order of the file.</summary>
    public List<LogView> Views { get; } = [];

    /// <summary>How many lines were left out, by why.</summary>
    public IEnumerable<(LogLineSkip Why, long Lines)> Skipped =>
        _skipped.Select((lines, why) => ((LogLineSkip)why, lines)).Where(s => s.lines > 0);

    /// <summary>Lines in another format.</summary>
    public long Unreadable => _skipped[(int)LogLineSkip.Unreadable];

    /// <summary>Counts lines that are left out for what is known elsewhere.</summary>
    public void Skip(LogLineSkip why, long lines) => _skipped[(int)why] += lines;

    /// <summary>Sorts the next line.</summary>
    public void Add(ReadOnlySpan<byte> line)
    {
        Lines++;
        if (ViewOf(line, out var view) is { } why)
        {
            Skip(why, 1);
        }
        else
        {
            Views.Add(view!);
        }
    }

    private LogLineSkip? ViewOf(ReadOnlySpan<byte> text, out LogView? view)
    {
        view = null;
        if (!CombinedLogLine.TryRead(text, out var line))
        {
            return LogLineSkip.Unreadable;
        }

        if (PageRequest.SkipOf(line) is { } skip)
        {
            return skip;
        }

        string userAgent = Crawlers.Cut(Visible(CombinedLogLine.TextOf(line.UserAgent)));
        if (Crawlers.IsCrawler(userAgent))
        {
            return LogLineSkip.Crawler;
        }

        if (UrlOf(line, out string url) is { } foreign)
        {
            return foreign;
        }

        var day = site.Rules.DayOf(line.At);
        if (day < site.FirstDay)
        {
            return LogLineSkip.TooOld;
        }

        if (line.At > site.Until)
        {
            return LogLineSkip.InFuture;
        }

        string referrer = Visible(CombinedLogLine.TextOf(line.Referrer));
        var address = IPAddress.TryParse(line.Client, out var known) ? known : null;
        view = new LogView(
            line.At,
            day,
            LogLineBook.FingerprintOf(site.Key, text),
            PrivateAddress.Of(url),
            PrivateAddress.Of(referrer.Length <= LongestReferrer ? referrer : referrer[..LongestReferrer]),
            userAgent,
            address?.GetAddressBytes() ?? line.Client.ToArray(),
            address
        );
        return null;
    }

    private LogLineSkip? UrlOf(in CombinedLogLine line, out string url)
    {
        url = CombinedLogLine.TextOf(line.Target);
        if (url.StartsWith('/'))
        {
            string named = CombinedLogLine.TextOf(line.Host);
            string? host = named.Length == 0 ? site.Hosts[0] : HostOf(named);
            if (host is null)
            {
                return LogLineSkip.OtherHost;
            }

            url = $"{site.Scheme}://{host}{url}";
        }

        return url.Length > LongestUrl || url.Any(char.IsControl) || DestinationReader.Read(url).Destination is not { } page
                ? LogLineSkip.Unreadable
            : HostOf(page.HostAndPort) is null ? LogLineSkip.OtherHost
            : null;
    }

    /// <summary>The site's host that a line names, where the port it adds is the usual one; null for another's.</summary>
    private string? HostOf(string named)
    {
        string host = named.ToLowerInvariant();
        string bare =
            host.EndsWith(":80", StringComparison.Ordinal) ? host[..^3]
            : host.EndsWith(":443", StringComparison.Ordinal) ? host[..^4]
            : host;
        return site.Hosts.FirstOrDefault(h => h == host || h == bare);
    }

    private static string Visible(string text) => text.Any(char.IsControl) ? string.Concat(text.Where(c => !char.IsControl(c))) : text;
}

using PreciseBeacon.Core.Traffic.AccessLogs;

namespace PreciseBeacon.CoreTests.Traffic.AccessLogs;

/// <summary>Only successful page requests count, and no assets (rule 6).</summary>
public sealed class PageRequestTests
{
    [Theory]
    [InlineData("GET", "/", 200, null)]
    [InlineData("GET", "/seed-swap?utm_source=nattervine", 304, null)]
    [InlineData("GET", "/shop/bulbs.html", 203, null)]
    [InlineData("GET", "/index.php?file=a.css", 200, null)]
    [InlineData("GET", "/notes/v1.2", 200, null)]
    [InlineData("GET", "/about.us", 200, null)]
    [InlineData("GET", "/a.css/", 200, null)]
    [InlineData("GET", "https://marrowmere.example/visit", 200, null)]
    [InlineData("GET", "https://marrowmere.example", 200, null)]
    [InlineData("POST", "/", 200, LogLineSkip.OtherMethod)]
    [InlineData("HEAD", "/", 200, LogLineSkip.OtherMethod)]
    [InlineData("OPTIONS", "*", 200, LogLineSkip.OtherMethod)]
    [InlineData("get", "/", 200, LogLineSkip.OtherMethod)]
    [InlineData("GET", "/", 301, LogLineSkip.Unsuccessful)]
    [InlineData("GET", "/", 302, LogLineSkip.Unsuccessful)]
    [InlineData("GET", "/", 204, LogLineSkip.Unsuccessful)]
    [InlineData("GET", "/", 206, LogLineSkip.Unsuccessful)]
    [InlineData("GET", "/gone", 404, LogLineSkip.Unsuccessful)]
    [InlineData("GET", "/", 503, LogLineSkip.Unsuccessful)]
    [InlineData("GET", "/style.CSS?v=3", 200, LogLineSkip.Asset)]
    [InlineData("GET", "/img/fern.webp", 304, LogLineSkip.Asset)]
    [InlineData("GET", "/robots.txt", 200, LogLineSkip.Asset)]
    [InlineData("GET", "/favicon.ico", 200, LogLineSkip.Asset)]
    [InlineData("GET", "/feed.xml", 200, LogLineSkip.Asset)]
    [InlineData("GET", "/leaflet.pdf#page=2", 200, LogLineSkip.Asset)]
    [InlineData("GET", "/font.woff2", 200, LogLineSkip.Asset)]
    public void What_was_asked_for_and_answered_decides(string method, string target, int status, LogLineSkip? skip) =>
        Assert.Equal(
            skip,
            CombinedLogLineTests
                .Read($"192.0.2.9 - - [01/Nov/2026:00:00:00 +0000] \"{method} {target} HTTP/1.1\" {status} 1 \"-\" \"x\"")!
                .Skip
        );
}

using System.Text;
using PreciseBeacon.Core.Traffic.AccessLogs;

namespace PreciseBeacon.CoreTests.Traffic.AccessLogs;

public sealed class CombinedLogLineTests
{
    /// <summary>The worked example of the Apache HTTP Server documentation 2.4, Log Files, Combined Log Format, part by part as it says.</summary>
    [Fact]
    public void The_published_example_is_read_as_it_is_explained()
    {
        var line = Read(
            """127.0.0.1 - frank [10/Oct/2000:13:55:36 -0700] "GET /apache_pb.gif HTTP/1.0" 200 2326 "http://www.example.com/start.html" "Mozilla/4.08 [en] (Win98; I ;Nav)" """.Trim()
        )!;
        Assert.Equal(
            new Parts(
                "127.0.0.1",
                "",
                new DateTimeOffset(2000, 10, 10, 20, 55, 36, TimeSpan.Zero),
                "GET",
                "/apache_pb.gif",
                200,
                "http://www.example.com/start.html",
                "Mozilla/4.08 [en] (Win98; I ;Nav)"
            ),
            line
        );
        Assert.Equal(LogLineSkip.Asset, line.Skip);
    }

    /// <summary>Escapes as the same documentation says under mod_log_config, Format Notes.</summary>
    [Theory]
    [InlineData("""a\"b""", "a\"b")]
    [InlineData("""a\\b""", """a\b""")]
    [InlineData("""\xc3\xa9t\xC3\xA9""", "été")]
    [InlineData("""a\tb\nc""", "a\tb\nc")]
    [InlineData("""\x4""", "x4")]
    [InlineData("""\xzz""", "xzz")]
    [InlineData("""\xff""", "\uFFFD")]
    [InlineData("""ends\""", """ends\""")]
    [InlineData("été", "été")]
    public void What_stands_behind_a_backslash_is_read(string written, string text) =>
        Assert.Equal(text, CombinedLogLine.TextOf(Encoding.UTF8.GetBytes(written)));

    [Theory]
    [InlineData("2001:db8::7 - - ", "2001:db8::7", "")]
    [InlineData("marrowmere.example:443 192.0.2.9 - - ", "192.0.2.9", "marrowmere.example:443")]
    [InlineData("marrowmere.example 2001:db8::7 - rosa ", "2001:db8::7", "marrowmere.example")]
    [InlineData("host-7.skeinly.example - - ", "host-7.skeinly.example", "")]
    [InlineData("192.0.2.9 - rosa may ", "192.0.2.9", "")]
    [InlineData("192.0.2.9 192.0.2.10 - - ", "192.0.2.9", "")]
    public void The_client_stands_first_or_behind_the_host_that_was_asked(string head, string client, string host)
    {
        var line = Read($"{head}[01/Nov/2026:00:00:00 +0000] \"GET / HTTP/1.1\" 200 1 \"-\" \"x\"")!;
        Assert.Equal((client, host, ""), (line.Client, line.Host, line.Referrer));
    }

    [Theory]
    [InlineData("29/Feb/2028:23:59:60 +0100", "2028-02-29T22:59:59Z")]
    [InlineData("31/Dec/2026:23:30:00 -0130", "2027-01-01T01:00:00Z")]
    [InlineData("01/Jan/2027:00:10:00 +0545", "2026-12-31T18:25:00Z")]
    [InlineData("29/Feb/2027:10:00:00 +0000", null)]
    [InlineData("31/Apr/2027:10:00:00 +0000", null)]
    [InlineData("00/Jan/2027:10:00:00 +0000", null)]
    [InlineData("01/anF/2027:10:00:00 +0000", null)]
    [InlineData("01/Jan/2027:24:00:00 +0000", null)]
    [InlineData("1/Jan/2027:10:00:00 +0000", null)]
    [InlineData("01/Jan/2027:10:00:00", null)]
    [InlineData("2027-01-01T10:00:00+00:00", null)]
    [InlineData("01/Jan/2027:1x:00:00 +0000", null)]
    public void Times_are_those_the_server_wrote(string written, string? at) =>
        Assert.Equal(
            at is null ? null : DateTimeOffset.Parse(at, System.Globalization.CultureInfo.InvariantCulture),
            Read($"192.0.2.9 - - [{written}] \"GET / HTTP/1.1\" 200 1 \"-\" \"x\"")?.At
        );

    [Theory]
    [InlineData("")]
    [InlineData("not a log")]
    [InlineData("192.0.2.9 - - [01/Nov/2026:00:00:00 +0000] \"GET / HTTP/1.1\" 200 1")]
    [InlineData("192.0.2.9 - - [01/Nov/2026:00:00:00 +0000] \"GET / HTTP/1.1\" 200 1 \"-\"")]
    [InlineData("192.0.2.9 - - [01/Nov/2026:00:00:00 +0000] \"GET / HTTP/1.1\" 200 1 \"-\" \"open")]
    [InlineData("192.0.2.9 - - [01/Nov/2026:00:00:00 +0000] \"GET / HTTP/1.1\" 200 1 \"-\" \"open\\\"")]
    [InlineData("192.0.2.9 - - [01/Nov/2026:00:00:00 +0000] GET / 200 1 \"-\" \"x\"")]
    [InlineData("192.0.2.9 - - [01/Nov/2026:00:00:00 +0000] \"GET / HTTP/1.1\" ok 1 \"-\" \"x\"")]
    [InlineData("192.0.2.9 - - [01/Nov/2026:00:00:00 +0000] \"GET / HTTP/1.1\" 20 1 \"-\" \"x\"")]
    [InlineData("192.0.2.9 [01/Nov/2026:00:00:00 +0000] \"GET / HTTP/1.1\" 200 1 \"-\" \"x\"")]
    [InlineData("192.0.2.9,2026-11-01,GET,/,200")]
    public void Other_formats_are_told(string line) => Assert.Null(Read(line));

    [Theory]
    [InlineData("GET / HTTP/1.1", "GET", "/")]
    [InlineData("GET /a b?c=d e HTTP/2.0", "GET", "/a b?c=d e")]
    [InlineData("GET /old", "GET", "/old")]
    [InlineData("-", "", "")]
    [InlineData("", "", "")]
    [InlineData("""\x16\x03\x01""", "", "")]
    public void The_request_line_is_cut_whatever_it_says(string request, string method, string target)
    {
        var line = Read($"192.0.2.9 - - [01/Nov/2026:00:00:00 +0000] \"{request}\" 400 0 \"-\" \"-\"")!;
        Assert.Equal((method, target, ""), (line.Method, line.Target, line.UserAgent));
    }

    /// <summary>Nothing that is cut out of any line, however it is broken, makes the reader fail.</summary>
    [Fact]
    public void No_line_breaks_the_reader()
    {
        byte[] whole = Encoding.UTF8.GetBytes(
            """marrowmere.example 2001:db8::7 - - [01/Nov/2026:10:11:12 +0000] "GET /a?b=\"c\x41 HTTP/1.1" 200 17 "https://nattervine.example/" "Mozilla/5.0 \\ x" """.Trim()
        );
        var random = new Random(19);
        for (int i = 0; i < 20_000; i++)
        {
            byte[] line = [.. whole];
            for (int changes = random.Next(1, 4); changes > 0; changes--)
            {
                line[random.Next(line.Length)] = (byte)"\" \\[]-:/x0\0ÿ"[random.Next(12)];
            }

            if (CombinedLogLine.TryRead(line.AsSpan(0, random.Next(line.Length + 1)), out var read))
            {
                _ = CombinedLogLine.TextOf(read.Target) + CombinedLogLine.TextOf(read.UserAgent) + PageRequest.SkipOf(read);
            }
        }
    }

    internal static Parts? Read(string text)
    {
        if (!CombinedLogLine.TryRead(Encoding.UTF8.GetBytes(text), out var line))
        {
            return null;
        }

        return new Parts(
            Encoding.UTF8.GetString(line.Client),
            Encoding.UTF8.GetString(line.Host),
            line.At,
            Encoding.UTF8.GetString(line.Method),
            CombinedLogLine.TextOf(line.Target),
            line.Status,
            CombinedLogLine.TextOf(line.Referrer),
            CombinedLogLine.TextOf(line.UserAgent)
        )
        {
            Skip = PageRequest.SkipOf(line),
        };
    }

    /// <summary>The parts of a line as text.</summary>
    internal sealed record Parts(
        string Client,
        string Host,
        DateTimeOffset At,
        string Method,
        string Target,
        int Status,
        string Referrer,
        string UserAgent
    )
    {
        public LogLineSkip? Skip { get; init; }

        public bool Equals(Parts? other) =>
            other is not null
            && (Client, Host, At, Method, Target, Status, Referrer, UserAgent)
                == (other.Client, other.Host, other.At, other.Method, other.Target, other.Status, other.Referrer, other.UserAgent);

        public override int GetHashCode() => HashCode.Combine(Client, At, Target);
    }
}

using System.Net;
using System.Net.Sockets;
using System.Text;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Shorten;

/// <summary>The call for tools that can only put a long URL at the end of a pattern.</summary>
[Collection(nameof(DemoHost))]
public sealed class ShortenTests(DemoHost demo)
{
    private const string Page = $"http://{BeaconHost.GardenHost}/visit";

    private static readonly string Poster = "&placement=" + Uri.EscapeDataString("Gate poster") + "&campaign=School%20Visits";

    /// <summary>Sends a request line as it is, as such tools do; a URI class would tidy it up on the way.</summary>
    private async Task<(HttpStatusCode Status, string Text)> AskAsync(string query)
    {
        using var socket = new TcpClient();
        await socket.ConnectAsync(IPAddress.Loopback, demo.Host.Port);
        await using var stream = socket.GetStream();
        await stream.WriteAsync(
            Encoding.UTF8.GetBytes($"GET /api/v1/shorten?{query} HTTP/1.1\r\nHost: 127.0.0.1:{demo.Host.Port}\r\nConnection: close\r\n\r\n")
        );
        using var reader = new StreamReader(stream);
        string[] answer = (await reader.ReadToEndAsync()).Split("\r\n\r\n", 2);
        string body = answer[0].Contains("chunked", StringComparison.OrdinalIgnoreCase) ? answer[1].Split("\r\n")[1] : answer[1];
        return ((HttpStatusCode)int.Parse(answer[0].Split(' ')[1], System.Globalization.CultureInfo.InvariantCulture), body);
    }

    private async Task<string> TargetOfAsync(string shortUrl)
    {
        string target = "";
        await Eventually.Async(async () =>
        {
            using var click = await demo.Host.ClickAsync(new Uri(shortUrl).AbsolutePath);
            target = click.Headers.Location?.OriginalString ?? "";
            return click.StatusCode == HttpStatusCode.Found;
        });
        return target;
    }

    [Fact]
    public async Task A_long_url_comes_back_short_tagged_and_always_the_same()
    {
        string raw = Page + "?a=1&placement=mine&b=" + Guid.NewGuid().ToString("N")[..6];
        var answers = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => AskAsync($"key=demo-shortener{Poster}&url={raw}")));
        Assert.All(answers, a => Assert.Equal(HttpStatusCode.OK, a.Status));
        string only = Assert.Single(answers.Select(a => a.Text).Distinct());
        Assert.Matches($"^http://{demo.Host.ShortHost}/[0-9a-z]+$", only);
        Assert.Equal(raw + "&utm_source=gate_poster&utm_medium=qr&utm_campaign=school_visits", await TargetOfAsync(only));

        // Encoded or raw, it is the same address; another placement has a link of its own.
        Assert.Equal(only, (await AskAsync($"key=demo-shortener{Poster}&url={Uri.EscapeDataString(raw)}")).Text);
        Assert.NotEqual(
            only,
            (await AskAsync($"key=demo-shortener&placement=Members%E2%80%99%20mail&campaign=School%20Visits&url={raw}")).Text
        );
    }

    [Fact]
    public async Task Tags_that_are_there_already_are_respected()
    {
        string raw = Page + "?utm_source=members_mail&utm_content=own_" + Guid.NewGuid().ToString("N")[..6];
        string target = await TargetOfAsync((await AskAsync($"key=demo-shortener{Poster}&url={raw}")).Text);
        Assert.StartsWith(raw, target, StringComparison.Ordinal);
        Assert.DoesNotContain("gate_poster", target, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("key=demo-shortener", 400, "Put the URL at the end, after “&url=”.")]
    [InlineData("key=demo-shortener&url=javascript:alert(1)", 400, null)]
    [InlineData("key=demo-shortener&url=http://2130706433/", 400, null)]
    [InlineData("key=demo-shortener&placement=Nobody&url=" + Page, 422, null)]
    [InlineData("key=demo-shortener&url=" + Page, 422, null)] // source, medium and campaign are missing
    [InlineData("key=nobody-has-it&url=" + Page, 401, null)]
    [InlineData("url=" + Page, 401, null)]
    [InlineData("key=demo-owner&url=" + Page, 401, null)] // a key that can do more is never taken from an address
    public async Task What_is_wrong_is_said_in_one_plain_line(string query, int status, string? says)
    {
        var (given, text) = await AskAsync(query);
        Assert.Equal((HttpStatusCode)status, given);
        Assert.DoesNotContain('\n', text);
        Assert.DoesNotContain('{', text);
        Assert.Equal(says ?? text, text);
    }

    [Fact]
    public async Task A_host_nobody_approved_is_not_shortened_and_an_owner_is_asked()
    {
        var (status, text) = await AskAsync($"key=demo-shortener{Poster}&url=https://shop-elsewhere.example/a");
        Assert.Equal(HttpStatusCode.Forbidden, status);
        Assert.Contains("an owner was asked", text, StringComparison.Ordinal);
        Assert.Equal(
            1L,
            await demo.Host.ScalarAsync<long>("select count(*) from approved_hosts where host = 'shop-elsewhere.example' and not approved")
        );
    }

    [Fact]
    public async Task The_key_for_shortening_opens_nothing_else_and_the_pattern_is_given_ready_made()
    {
        using var client = demo.Host.As("shortener");
        Assert.Equal(HttpStatusCode.Forbidden, (await client.GetAsync("/api/v1/links")).StatusCode);
        using var editor = demo.Host.As("editor");
        var snippet = await editor.DoAsync(
            HttpMethod.Post,
            "/api/v1/links/snippet",
            new { placement = "Gate poster", campaign = "School Visits" }
        );
        string pattern = snippet.Text("shortenPattern");
        Assert.EndsWith(
            "/api/v1/shorten?key=YOUR-KEY&placement=Gate%20poster&campaign=School%20Visits&url=",
            pattern,
            StringComparison.Ordinal
        );
        var (status, _) = await AskAsync(
            pattern.Split('?', 2)[1].Replace("YOUR-KEY", "demo-shortener", StringComparison.Ordinal) + Page + "?from=pattern"
        );
        Assert.Equal(HttpStatusCode.OK, status);
    }
}

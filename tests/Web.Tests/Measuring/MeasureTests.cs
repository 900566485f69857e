using System.Net;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Demo;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Measuring;

[Collection(nameof(DemoHost))]
public sealed class MeasureTests(DemoHost demo)
{
    private const int Newest = 3;
    private const string Key = DemoData.MeasuringKey;
    private const string Page = $"http://{BeaconHost.GardenHost}/lantern-nights";

    [Theory]
    [InlineData("", 400)]
    [InlineData("nonsense", 400)]
    [InlineData("[]", 400)]
    [InlineData("null", 400)]
    [InlineData("{\"k\":5}", 400)]
    [InlineData("{\"k\":\"demo-garden\"}", 400)]
    [InlineData("{\"k\":\"demo-garden\",\"u\":\"https://elsewhere.example/\"}", 400)]
    [InlineData("{\"k\":\"demo-garden\",\"u\":\"javascript:1\"}", 400)]
    [InlineData("{\"k\":\"demo-garden\",\"u\":\"http://garden.localhost:5999/\",\"e\":\"payday\"}", 400)]
    [InlineData("{\"k\":\"demo-garden\",\"u\":\"http://garden.localhost:5999/\",\"e\":\"conversion\"}", 400)]
    [InlineData(
        "{\"k\":\"demo-garden\",\"u\":\"http://garden.localhost:5999/\",\"e\":\"conversion\",\"n\":\"ticket\",\"v\":1e30,\"c\":\"EUR\"}",
        400
    )]
    [InlineData("{\"k\":\"demo-garden\",\"u\":\"http://garden.localhost:5999/\",\"e\":\"conversion\",\"n\":\"ticket\",\"v\":12}", 400)]
    [InlineData("{\"k\":\"demo-garden\",\"u\":\"http://garden.localhost:5999/\",\"e\":\"conversion\",\"n\":\"ticket\",\"i\":[null]}", 400)]
    [InlineData(
        "{\"k\":\"demo-garden\",\"u\":\"http://garden.localhost:5999/\",\"e\":\"conversion\",\"n\":\"ticket\",\"v\":-1,\"c\":\"EUR\"}",
        400
    )]
    [InlineData(
        "{\"k\":\"demo-garden\",\"u\":\"http://garden.localhost:5999/\",\"e\":\"conversion\",\"n\":\"ticket\",\"v\":1000001,\"c\":\"EUR\"}",
        400
    )]
    [InlineData(
        "{\"k\":\"demo-garden\",\"u\":\"http://garden.localhost:5999/\",\"e\":\"conversion\",\"n\":\"ticket\",\"v\":1,\"c\":\"ZZZ\"}",
        400
    )]
    [InlineData(
        "{\"k\":\"demo-garden\",\"u\":\"http://garden.localhost:5999/\",\"e\":\"conversion\",\"n\":\"ticket\",\"i\":[{\"name\":\"Bulb\",\"count\":-3}]}",
        400
    )]
    [InlineData("{\"k\":\"somebody-elses\",\"u\":\"http://garden.localhost:5999/\"}", 403)]
    [InlineData("{\"k\":\"demo-garden\",\"u\":\"http://garden.localhost:5999/\"}", 204)]
    public async Task Reports_are_checked_at_the_door(string body, int status) =>
        Assert.Equal(status, (int)(await demo.Host.MeasureAsync(body)).StatusCode);

    [Theory]
    [InlineData("https://elsewhere.example")]
    [InlineData("null")]
    [InlineData("http://garden.localhost")]
    public async Task A_foreign_origin_is_refused(string origin) =>
        Assert.Equal(HttpStatusCode.Forbidden, (await demo.Host.MeasureAsync(new { k = Key, u = Page }, origin)).StatusCode);

    [Fact]
    public async Task A_report_too_large_is_refused() =>
        Assert.Equal(
            HttpStatusCode.RequestEntityTooLarge,
            (
                await demo.Host.MeasureAsync(
                    new
                    {
                        k = Key,
                        u = Page,
                        r = new string('x', 17_000),
                    }
                )
            ).StatusCode
        );

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public async Task A_report_of_megabytes_is_refused_too(bool told)
    {
        // Without a length, the server hears that it is too much only at its end, and closes: what is still on its way then must fit
        // into the network's own memory, or the client breaks off before it reads the answer.
        int length = told ? 6 << 20 : (4 << 20) + 1_024;
        using var client = demo.Host.Anonymous();
        using var request = new HttpRequestMessage(HttpMethod.Post, "/measure") { Content = new StringContent(new string('x', length)) };
        request.Headers.ExpectContinue = true;
        request.Headers.TransferEncodingChunked = !told;
        using var answer = await client.SendAsync(request);
        Assert.True(
            answer.StatusCode == HttpStatusCode.RequestEntityTooLarge,
            $"{(int)answer.StatusCode} {await answer.Content.ReadAsStringAsync()}"
        );
    }

    [Fact]
    public async Task It_is_reached_on_a_short_domain_and_on_the_sites_own_host()
    {
        foreach (string host in new[] { demo.Host.ShortHost, BeaconHost.GardenHost })
        {
            using var client = demo.Host.Anonymous();
            using var request = new HttpRequestMessage(HttpMethod.Post, "/measure")
            {
                Content = new StringContent($$"""{"k":"{{Key}}","u":"{{Page}}"}"""),
            };
            request.Headers.Host = host;
            request.Headers.Add("Origin", $"http://{BeaconHost.GardenHost}");
            Assert.Equal(HttpStatusCode.NoContent, (await client.SendAsync(request)).StatusCode);
        }
    }

    /// <summary>What a page reports anybody can forge; it is counted, and said to be unverified.</summary>
    [Fact]
    public async Task Conversions_say_how_many_are_verified()
    {
        await using var host = await BeaconHost.StartAsync();
        Assert.Equal(
            HttpStatusCode.NoContent,
            (
                await host.MeasureAsync(
                    new
                    {
                        k = Key,
                        u = Page,
                        e = "conversion",
                        n = "ticket",
                        o = "A1",
                        v = 20,
                        c = "EUR",
                    }
                )
            ).StatusCode
        );
        await Eventually.Async(async () => await host.ScalarAsync<long>("select count(*) from conversion where not verified") == 1);
        await using (var signed = host.Database.CreateCommand("update page_event set verified = true"))
        {
            await signed.ExecuteNonQueryAsync();
        }

        Assert.Equal((1, 0), await FiguresAsync());
        await new PreciseBeacon.Data.Traffic.TrafficRebuild(host.Database).MarkAllAsync(CancellationToken.None);
        await Eventually.Async(async () => await FiguresAsync() == (1, 1));

        async Task<(int, int)> FiguresAsync()
        {
            var total = (await host.GetJsonAsync("/api/v1/arrivals"))["total"];
            return (total.Whole("conversions"), total.Whole("verifiedConversions"));
        }
    }

    /// <summary>The page's own address, encoded or as it is; without it the visit has no tags, and the workspace says so.</summary>
    [Theory]
    [InlineData(
        "&u=http%3A%2F%2F{host}%2Fpicture-one%3Futm_source%3Dskeinly%26utm_medium%3Dsocial",
        "http://{host}/picture-one?utm_source=skeinly&utm_medium=social"
    )]
    [InlineData(
        "&u=http://{host}/picture-two?utm_source=skeinly&utm_medium=social",
        "http://{host}/picture-two?utm_source=skeinly&utm_medium=social"
    )]
    [InlineData("", "http://{host}/picture-three")]
    public async Task A_picture_measures_a_view_where_no_script_runs(string query, string url)
    {
        string Of(string text) => text.Replace("{host}", BeaconHost.GardenHost, StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.OK, await AskAsync(query, query.Length == 0 ? "http://{host}/picture-three" : "http://{host}/"));
        await Eventually.Async(async () =>
            await demo.Host.ScalarAsync<long>("select count(*) from page_event where kind = 0 and url = $1", Of(url)) == 1
        );

        // Not from a page of anybody else's, nor with its address.
        Assert.Equal(HttpStatusCode.Forbidden, await AskAsync(query, "http://fern.example/"));
        Assert.Equal(HttpStatusCode.BadRequest, await AskAsync("&u=http://fern.example/x", "http://{host}/"));
        Assert.Equal(HttpStatusCode.Forbidden, await AskAsync("&u=http://fern.example/x", null));
        Assert.Equal(HttpStatusCode.Forbidden, await AskAsync("", null));
        if (query.Length == 0)
        {
            await Eventually.Async(async () =>
                (await demo.Host.GetJsonAsync("/api/v1/sites")).ToJsonString().Contains("visits have no tags", StringComparison.Ordinal)
            );
        }

        async Task<HttpStatusCode> AskAsync(string more, string? from)
        {
            using var client = demo.Host.Anonymous();
            using var request = new HttpRequestMessage(HttpMethod.Get, $"/measure.gif?k={Key}{Of(more)}");
            request.Headers.TryAddWithoutValidation("User-Agent", "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1");
            if (from is not null)
            {
                request.Headers.TryAddWithoutValidation("Referer", Of(from));
            }

            using var answer = await client.SendAsync(request);
            if (answer.IsSuccessStatusCode)
            {
                Assert.Equal("image/gif", answer.Content.Headers.ContentType!.MediaType);
                Assert.Equal("no-store", answer.Headers.CacheControl!.ToString());
                Assert.StartsWith(
                    "GIF89a",
                    System.Text.Encoding.ASCII.GetString(await answer.Content.ReadAsByteArrayAsync()),
                    StringComparison.Ordinal
                );
            }

            return answer.StatusCode;
        }
    }

    [Fact]
    public async Task The_script_is_small_sets_no_cookie_and_may_be_used_from_the_site()
    {
        using var client = demo.Host.Anonymous();
        using var script = await client.GetAsync("/beacon.js");
        using var squeezed = new MemoryStream();
        await using (
            var zip = new System.IO.Compression.GZipStream(squeezed, System.IO.Compression.CompressionLevel.Optimal, leaveOpen: true)
        )
        {
            await (await script.Content.ReadAsStreamAsync()).CopyToAsync(zip);
        }

        Assert.True(squeezed.Length < 3_072, $"{squeezed.Length} octets compressed");
        Assert.False(script.Headers.Contains("Set-Cookie"));
        Assert.Equal("cross-origin", script.Headers.GetValues("Cross-Origin-Resource-Policy").Single());
        using var measured = await demo.Host.MeasureAsync(new { k = Key, u = Page });
        Assert.Equal($"http://{BeaconHost.GardenHost}", measured.Headers.GetValues("Access-Control-Allow-Origin").Single());
        Assert.False(measured.Headers.Contains("Set-Cookie"));
    }

    /// <summary>A page that names a version's hash must find it for good: a version is never changed, only followed by another.</summary>
    [Theory]
    [InlineData(1, "sha384-EDvQCch9mdN2fOToCG51laAhfTadeLjsI0ry4aqwa+CzaUBbMclujbS7t14UbpuU")]
    [InlineData(2, "sha384-Wuv5eR5KEYR3PwCe+am0NB57MRRVyd4tyYrVr1fUQwv1XT6dhAitPPsLXkDPoRE6")]
    [InlineData(Newest, "sha384-Bl5WvohQcoluxyvsf/Aze2O2sDfBXbFrkJAuf5MD7/JiFBK9Jr62LWsYzFZZHd1D")]
    public async Task A_version_of_the_script_never_changes(int version, string integrity)
    {
        using var client = demo.Host.Anonymous();
        using var script = await client.GetAsync($"/beacon/{version}.js");
        byte[] text = await script.Content.ReadAsByteArrayAsync();
        Assert.Equal(integrity, "sha384-" + Convert.ToBase64String(System.Security.Cryptography.SHA384.HashData(text)));
        Assert.Equal("public, max-age=31536000, immutable", script.Headers.CacheControl!.ToString());
        Assert.Equal("*", script.Headers.GetValues("Access-Control-Allow-Origin").Single());
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync("/beacon/999.js")).StatusCode);
        string snippet = (await demo.Host.GetJsonAsync("/api/v1/sites"))[0].Text("pinnedSnippet");
        Assert.Equal(
            version == Newest,
            snippet.Contains($"/beacon/{version}.js\" integrity=\"{integrity}\" crossorigin=\"anonymous\"", StringComparison.Ordinal)
        );
        byte[] plain = await client.GetByteArrayAsync("/beacon.js");
        Assert.Equal(version == Newest, text.AsSpan().SequenceEqual(plain));
    }

    [Fact]
    public async Task A_flood_from_one_client_is_held_back()
    {
        await using var host = await BeaconHost.StartAsync();
        var answers = await Task.WhenAll(Enumerable.Range(0, 400).Select(_ => host.MeasureAsync(new { k = Key, u = Page })));
        Assert.Contains(answers, a => a.StatusCode == HttpStatusCode.TooManyRequests);
        Assert.Contains(answers, a => a.StatusCode == HttpStatusCode.NoContent);
    }

    [Fact]
    public async Task What_a_stranger_sends_is_kept_as_text_and_never_stops_the_others()
    {
        await using var host = await BeaconHost.StartAsync();
        string[] nasty = ["<script>alert(1)</script>", "\0nul", "\uFFFF", "'; drop table visit; --", "=1+1", new string('x', 100)];
        foreach (string name in nasty)
        {
            var report = new
            {
                k = Key,
                u = Page + "?utm_source=" + Uri.EscapeDataString(name),
                e = "conversion",
                n = name,
                o = name,
                v = 1,
                c = "eur",
                i = new[]
                {
                    new
                    {
                        name,
                        category = name,
                        count = 1,
                        value = 1,
                    },
                },
            };
            Assert.Equal(HttpStatusCode.NoContent, (await host.MeasureAsync(report)).StatusCode);
        }

        // Half a character is no JSON text (RFC 8259, section 8.2).
        using var half = await host.MeasureAsync(
            "{\"k\":\"demo-garden\",\"u\":\""
                + Page
                + "\",\"e\":\"conversion\",\"n\":\"half\",\"i\":[{\"name\":\"\\ud800\\u0000\",\"count\":1}]}"
        );
        Assert.Equal(HttpStatusCode.BadRequest, half.StatusCode);
        await Eventually.Async(async () =>
            await host.ScalarAsync<long>("select count(*) from page_event") == nasty.Length
            && await host.ScalarAsync<long>("select count(*) from visit_due") == 0
        );
        Assert.Equal(0L, await host.ScalarAsync<long>("select coalesce(sum(refused), 0)::bigint from spool_position"));
        Assert.Equal(1L, await host.ScalarAsync<long>("select count(*) from conversion where kind = '<script>alert(1)</script>'"));
    }
}

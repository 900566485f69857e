using System.Diagnostics;
using System.IO.Compression;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.Extensions.DependencyInjection;
using PreciseBeacon.Core.Proofs;
using PreciseBeacon.Web.Outside;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Proofs;

/// <summary>The way to a page of a host that means harm: ended within limits, and never a connection inwards.</summary>
public sealed class PageTracerTests : IAsyncLifetime
{
    private const int MostRead = 2 << 20;

    private readonly int _port = DatabaseCluster.FreePort();
    private WebApplication _site = null!;
    private BeaconHost _host = null!;
    private PageTracer _tracer = null!;
    private int _secrets;

    private string Site => $"http://garden.localhost:{_port}";

    public async Task InitializeAsync()
    {
        var builder = WebApplication.CreateBuilder();
        builder.Configuration["urls"] = $"http://127.0.0.1:{_port};http://[::1]:{_port}";
        builder.Configuration["Logging:LogLevel:Default"] = "None";
        _site = builder.Build();
        _site.MapGet("/secret", () => Interlocked.Increment(ref _secrets));
        _site.MapGet("/to", (string where) => Results.Redirect(where));
        _site.MapGet("/far/{n:int}", (int n) => Results.Redirect($"/far/{n + 1}"));
        _site.MapGet("/round", () => Results.Redirect("/round/again"));
        _site.MapGet("/round/again", () => Results.Redirect("/round"));
        _site.MapGet("/page", () => Results.Text("<title> Ferns  &amp; moss </title>", "text/html"));
        _site.MapGet("/endless", async (HttpContext context) =>
        {
            byte[] much = new byte[1 << 16];
            while (!context.RequestAborted.IsCancellationRequested)
            {
                await context.Response.Body.WriteAsync(much, context.RequestAborted);
            }
        });
        _site.MapGet("/drip", async (HttpContext context) =>
        {
            while (!context.RequestAborted.IsCancellationRequested)
            {
                await context.Response.WriteAsync(".", context.RequestAborted);
                await Task.Delay(200, context.RequestAborted);
            }
        });
        _site.MapGet("/bomb", async (HttpContext context) =>
        {
            context.Response.Headers.ContentEncoding = "gzip";
            await using var packed = new GZipStream(context.Response.Body, CompressionLevel.Fastest);
            byte[] nothing = new byte[1 << 20];
            for (int i = 0; i < 2_000; i++)
            {
                await packed.WriteAsync(nothing, context.RequestAborted);
            }
        });
        _site.MapGet("/short", async (HttpContext context) =>
        {
            context.Response.ContentLength = 5_000;
            await context.Response.WriteAsync("too short");
            context.Features.Get<IHttpRequestLifetimeFeature>()!.Abort();
        });
        await _site.StartAsync();
        _host = await BeaconHost.StartAsync(visits: 0, more: $"--Beacon:DemoSiteHost=garden.localhost:{_port}");
        _tracer = _host.Services.GetRequiredService<PageTracer>();
    }

    public async Task DisposeAsync()
    {
        await _host.DisposeAsync();
        await _site.DisposeAsync();
    }

    private async Task<PageTrace> TraceAsync(string url) => await _tracer.TraceAsync(url, host => host == _host.ShortHost, default);

    [Fact]
    public async Task A_page_is_looked_at_and_a_fragment_goes_along_a_redirect()
    {
        var trace = await TraceAsync($"{Site}/to?where=/page#part");
        Assert.Equal([$"{Site}/to?where=/page#part", $"{Site}/page#part"], trace.Hops.Select(h => h.Url));
        Assert.Equal([302, 200], trace.Hops.Select(h => h.Status));
        Assert.Equal("Ferns & moss", trace.Page!.Title);
        Assert.Null(trace.Problem);
    }

    /// <summary>This machine by its name, by numbers, in IPv6 and with IPv4 inside it (RFC 4291, 2.5.5.2), a private network, the link-local address of clouds.</summary>
    [Theory]
    [InlineData("http://127.0.0.1:{0}/secret")]
    [InlineData("http://localhost:{0}/secret")]
    [InlineData("http://other.localhost:{0}/secret")]
    [InlineData("http://[::1]:{0}/secret")]
    [InlineData("http://[::ffff:127.0.0.1]:{0}/secret")]
    [InlineData("http://2130706433:{0}/secret")]
    [InlineData("http://10.0.0.1/")]
    [InlineData("http://169.254.169.254/latest")]
    public async Task Nothing_leads_inwards(string inward)
    {
        string url = string.Format(System.Globalization.CultureInfo.InvariantCulture, inward, _port);
        foreach (string way in new[] { url, $"{Site}/to?where={Uri.EscapeDataString(url)}" })
        {
            var trace = await TraceAsync(way);
            Assert.Equal((TraceProblem.Unreachable, (TracedPage?)null), (trace.Problem!.Value, trace.Page));
        }

        Assert.Equal(0, _secrets);
    }

    [Fact]
    public async Task Ten_thousand_redirects_and_circles_are_given_up()
    {
        var far = await TraceAsync($"{Site}/far/1");
        Assert.Equal((TraceProblem.TooManyRedirects, 11), (far.Problem!.Value, far.Hops.Count));
        var round = await TraceAsync($"{Site}/round");
        Assert.Equal((TraceProblem.TooManyRedirects, 2), (round.Problem!.Value, round.Hops.Count));
    }

    [Theory]
    [InlineData("/endless")]
    [InlineData("/bomb")]
    public async Task No_more_of_a_page_is_read_than_is_looked_at(string path)
    {
        var trace = await TraceAsync(Site + path);
        Assert.Equal(MostRead, trace.Page!.Octets);
    }

    [Fact]
    public async Task A_page_that_drips_is_given_up_in_time()
    {
        var watch = Stopwatch.StartNew();
        var trace = await TraceAsync($"{Site}/drip");
        Assert.Equal(TraceProblem.TooSlow, trace.Problem);
        Assert.InRange(watch.Elapsed.TotalSeconds, 9, 40);
    }

    [Theory]
    [InlineData("/short")]
    [InlineData("/to?where=ftp://garden.example/")]
    [InlineData("/to?where=https://garden.localhost:{0}/page")] // no TLS there
    [InlineData("/to?where=https://nowhere.invalid/")] // RFC 6761, 6.4: never resolves
    public async Task What_breaks_off_is_unreachable(string path)
    {
        var trace = await TraceAsync(Site + string.Format(System.Globalization.CultureInfo.InvariantCulture, path, _port));
        Assert.Equal(TraceProblem.Unreachable, trace.Problem);
        Assert.NotNull(trace.Says);
    }

    [Fact]
    public async Task A_short_link_on_the_way_is_not_opened()
    {
        var trace = await TraceAsync($"{Site}/to?where=http://{_host.ShortHost}/anything");
        Assert.Equal((TraceProblem.CountedLink, 2), (trace.Problem!.Value, trace.Hops.Count));
        Assert.Null(trace.Hops[1].Status);
    }
}

using System.Net;
using System.Net.Http.Json;
using System.Text;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Demo;
using PreciseBeacon.Web.Accounts;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Accounts;

/// <summary>Nothing that changes something can be sent in a person's name from elsewhere, however its address is written.</summary>
[Collection(nameof(DemoHost))]
public sealed class ForgeryTests(DemoHost demo)
{
    private static readonly Func<string, string>[] Spellings =
    [
        path => path,
        path => path.ToUpperInvariant(),
        path => path + "/",
        path => "/" + path,
        path => path.Replace("/", "//", StringComparison.Ordinal),
        path => path.Replace("a", "%61", StringComparison.Ordinal),
        path => "/%61%70%69" + path[4..],
        path => path + "%2f",
        path => path.Replace("api", "aPi", StringComparison.Ordinal),
        path => path + "?x=/measure",
    ];

    private async Task<HttpClient> SignedInAsync()
    {
        var browser = demo.Host.Anonymous();
        await TokenAsync(browser);
        using var answer = await browser.PostAsJsonAsync("/api/account/sign-in", new { mail = DemoPeople.All[0].Mail });
        Assert.Equal(HttpStatusCode.NoContent, answer.StatusCode);
        await TokenAsync(browser);
        return browser;
    }

    private static async Task TokenAsync(HttpClient browser)
    {
        var state = await browser.DoAsync(HttpMethod.Get, "/api/account");
        browser.DefaultRequestHeaders.Remove("X-Beacon-Token");
        browser.DefaultRequestHeaders.Add("X-Beacon-Token", state.Text("token"));
    }

    /// <summary>Every endpoint there is, taken from the application itself.</summary>
    private IEnumerable<(HttpMethod Method, string Path)> Unsafe() =>
        demo
            .Host.Services.GetServices<EndpointDataSource>()
            .SelectMany(s => s.Endpoints)
            .OfType<RouteEndpoint>()
            .Where(e => e.Metadata.GetMetadata<OpenToAllSites>() is null)
            .SelectMany(e =>
                (e.Metadata.GetMetadata<IHttpMethodMetadata>()?.HttpMethods ?? []).Select(m =>
                    (HttpMethod.Parse(m), "/" + e.RoutePattern.RawText!.Trim('/'))
                )
            )
            .Where(e => e.Item1 != HttpMethod.Get && e.Item1 != HttpMethod.Options)
            .Select(e =>
                (e.Item1, System.Text.RegularExpressions.Regex.Replace(e.Item2, @"\{[^}]*\}", "01234567-89ab-7cde-8f01-23456789abcd"))
            );

    [Fact]
    public async Task Every_call_that_changes_something_needs_the_pages_token_however_its_address_is_written()
    {
        using var browser = await SignedInAsync();
        browser.DefaultRequestHeaders.Remove("X-Beacon-Token");
        var calls = Unsafe().ToList();
        Assert.True(calls.Count > 80);
        var through = new List<string>();
        foreach (var (method, path) in calls)
        {
            foreach (var spell in Spellings)
            {
                using var request = new HttpRequestMessage(
                    method,
                    new Uri(
                        $"http://127.0.0.1:{demo.Host.Port}{spell(path)}",
                        new UriCreationOptions { DangerousDisablePathAndQueryCanonicalization = true }
                    )
                )
                {
                    Content = new StringContent("{}", Encoding.UTF8, "application/json"),
                };
                using var answer = await browser.SendAsync(request);
                string text = await answer.Content.ReadAsStringAsync();
                bool stopped =
                    answer.StatusCode is HttpStatusCode.NotFound or HttpStatusCode.MethodNotAllowed or HttpStatusCode.TooManyRequests
                    || (
                        answer.StatusCode == HttpStatusCode.BadRequest
                        && (text.Contains("page-too-old", StringComparison.Ordinal) || text.Length == 0)
                    );
                if (!stopped || (answer.StatusCode == HttpStatusCode.NotFound && text.Contains("no such", StringComparison.Ordinal)))
                {
                    through.Add($"{method} {spell(path)}: {(int)answer.StatusCode} {text}");
                }
            }
        }

        Assert.Empty(through);
        Assert.Equal(HttpStatusCode.OK, (await browser.GetAsync("/api/v1/keys")).StatusCode);
    }

    [Theory]
    [InlineData("Sec-Fetch-Site", "same-site")]
    [InlineData("Sec-Fetch-Site", "cross-site")]
    [InlineData("Sec-Fetch-Site", "none")]
    [InlineData("Origin", "http://garden.localhost:5999")]
    [InlineData("Origin", "null")]
    public async Task A_page_of_another_site_sends_nothing_even_with_the_token(string header, string value)
    {
        using var browser = await SignedInAsync();
        using var request = new HttpRequestMessage(HttpMethod.Post, "/API/v1/keys")
        {
            Content = JsonContent.Create(new { name = "forged", role = "owner" }),
        };
        request.Headers.Add(header, value);
        using var answer = await browser.SendAsync(request);
        Assert.Equal(HttpStatusCode.Forbidden, answer.StatusCode);
        Assert.Contains("foreign-page", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(0L, await demo.Host.ScalarAsync<long>("select count(*) from api_keys where name = 'forged'"));
    }

    [Fact]
    public async Task Its_own_page_may_send()
    {
        using var browser = await SignedInAsync();
        using var request = new HttpRequestMessage(HttpMethod.Post, "/api/v1/links/inspect")
        {
            Content = JsonContent.Create(new { url = "https://marrowmere.example/" }),
        };
        request.Headers.Add("Sec-Fetch-Site", "same-origin");
        request.Headers.Add("Origin", $"http://127.0.0.1:{demo.Host.Port}");
        Assert.Equal(HttpStatusCode.OK, (await browser.SendAsync(request)).StatusCode);
    }
}

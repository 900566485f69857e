using System.Net;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Accounts;

[Collection(nameof(DemoHost))]
public sealed class AccessTests(DemoHost demo)
{
    private IEnumerable<(string Method, string Route, Caller Callers)> Lines =>
        AccessGate
            .Endpoints(demo.Host.Services.GetRequiredService<EndpointDataSource>().Endpoints)
            .Select(e => (e.Method, e.Route, e.Callers!.Value));

    /// <summary>Walks every endpoint as every role and as a stranger.</summary>
    [Fact]
    public async Task Every_endpoint_lets_in_whom_it_names_and_nobody_else()
    {
        Assert.InRange(Lines.Count(), 150, 1_000);
        var callers = Enum.GetValues<Role>()
            .Select(r => (Who: Enum.Parse<Caller>(r.ToString()), Client: demo.Host.As(r.ToString().ToLowerInvariant())))
            .Append((Who: Caller.Stranger, Client: demo.Host.Anonymous()));
        foreach (var (who, client) in callers)
        {
            foreach (var (method, route, allowed) in Lines)
            {
                string path = route
                    .Replace("{id:guid}", Guid.NewGuid().ToString(), StringComparison.Ordinal)
                    .Replace("{documentName}", "v1", StringComparison.Ordinal);
                using var request = new HttpRequestMessage(HttpMethod.Parse(method), path);
                request.Content = method == "POST" ? new StringContent("{}", System.Text.Encoding.UTF8, "application/json") : null;
                using var response = await client.SendAsync(request, HttpCompletionOption.ResponseHeadersRead);
                var refused = who == Caller.Stranger ? HttpStatusCode.Unauthorized : HttpStatusCode.Forbidden;
                bool isRefused = response.StatusCode == refused && route is not ("/measure" or "/measure.gif" or "/measure/fields"); // they have keys of their own
                Assert.True(isRefused != ((allowed & who) != 0), $"{who} {method} {route}: {(int)response.StatusCode}");
                Assert.True((int)response.StatusCode != 500, $"{who} {method} {route} broke");
            }

            client.Dispose();
        }
    }

    /// <summary>The table people read is printed from the endpoints, each listed once.</summary>
    [Fact]
    public async Task The_table_of_access_is_the_one_that_is_written_down()
    {
        string file = Path.Combine(DatabaseCluster.Root, "docs/access.md");
        Caller[] columns = [Caller.Stranger, Caller.Shortener, Caller.Measuring, Caller.Viewer, Caller.Editor, Caller.Owner];
        var lines = Lines.OrderBy(l => l.Route, StringComparer.Ordinal).ThenBy(l => l.Method, StringComparer.Ordinal).ToList();
        Assert.Equal(lines.Count, lines.DistinctBy(l => (l.Method, l.Route)).Count());
        string table =
            "# Who may call what\n\nPrinted from the endpoints by `AccessTests`; each says itself who may call it.\n\n"
            + $"| Call | {string.Join(" | ", columns)} |\n|---|{string.Concat(columns.Select(_ => ":-:|"))}\n"
            + string.Concat(
                lines.Select(l =>
                    $"| `{l.Method} {l.Route.Replace(":guid", "", StringComparison.Ordinal)}` | {string.Join(" | ", columns.Select(c => l.Callers.HasFlag(c) ? "✓" : " "))} |\n"
                )
            );
        if (Environment.GetEnvironmentVariable("BEACON_WRITE_OPENAPI") is { Length: > 0 })
        {
            await File.WriteAllTextAsync(file, table);
        }

        Assert.True(table == await File.ReadAllTextAsync(file), "docs/access.md is stale; run scripts/api.");
    }

    [Theory]
    [InlineData("nobody-has-this-key")]
    [InlineData("demo-owner ")]
    [InlineData("")]
    public async Task An_unknown_key_is_a_stranger(string key)
    {
        using var client = demo.Host.Anonymous();
        client.DefaultRequestHeaders.TryAddWithoutValidation("Authorization", $"Bearer {key}x");
        Assert.Equal(HttpStatusCode.Unauthorized, (await client.GetAsync("/api/v1/links")).StatusCode);
    }

    [Fact]
    public async Task Pages_carry_a_strict_policy_and_no_inline_script()
    {
        using var client = demo.Host.Anonymous();
        using var page = await client.GetAsync("/sign-in");
        string policy = page.Headers.GetValues("Content-Security-Policy").Single();
        Assert.Contains("default-src 'none'; script-src 'self';", policy, StringComparison.Ordinal);
        Assert.DoesNotContain("unsafe", policy, StringComparison.Ordinal);
        Assert.Equal("nosniff", page.Headers.GetValues("X-Content-Type-Options").Single());
        Assert.False(page.Headers.Contains("Server"));
    }
}

using System.Net;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Accounts;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Accounts;

[Collection(nameof(DemoHost))]
public sealed class AccessTests(DemoHost demo)
{
    /// <summary>Walks every endpoint as every role and as a stranger.</summary>
    [Fact]
    public async Task Every_endpoint_lets_in_whom_the_table_says_and_nobody_else()
    {
        var callers = Enum.GetValues<Role>().Select(r => (Who: Enum.Parse<Who>(r.ToString()), Client: demo.Host.As(r.ToString().ToLowerInvariant())))
            .Append((Who: Who.Stranger, Client: demo.Host.Anonymous()));
        foreach (var (who, client) in callers)
        {
            foreach (var (method, route, allowed) in AccessTable.Lines)
            {
                string path = route.Replace("{id:guid}", Guid.NewGuid().ToString(), StringComparison.Ordinal).Replace("{documentName}", "v1", StringComparison.Ordinal);
                using var request = new HttpRequestMessage(HttpMethod.Parse(method), path);
                request.Content = method == "POST" ? new StringContent("{}", System.Text.Encoding.UTF8, "application/json") : null;
                using var response = await client.SendAsync(request);
                var refused = who == Who.Stranger ? HttpStatusCode.Unauthorized : HttpStatusCode.Forbidden;
                bool isRefused = response.StatusCode == refused && route != "/measure";
                Assert.True(isRefused != ((allowed & who) != 0), $"{who} {method} {route}: {(int)response.StatusCode}");
                Assert.True((int)response.StatusCode != 500, $"{who} {method} {route} broke");
            }

            client.Dispose();
        }
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

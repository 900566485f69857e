using System.Net;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Accounts;

/// <summary>Keys for other programs: what they may do, and that revoking them holds at once.</summary>
[Collection(nameof(DemoHost))]
public sealed class KeyTests(DemoHost demo)
{
    [Fact]
    public async Task A_key_is_shown_once_may_do_its_one_thing_and_is_revoked_at_once()
    {
        using var owner = demo.Host.As("owner");
        var made = await owner.DoAsync(HttpMethod.Post, "/api/v1/keys", new { name = "Posting tool", role = "shortener" });
        string secret = made.Text("secret");
        string id = made["key"].Text("id");
        Assert.DoesNotContain(secret, (await owner.DoAsync(HttpMethod.Get, "/api/v1/keys")).ToJsonString(), StringComparison.Ordinal);

        // Restricted to its call, in the address and in the header alike.
        string shorten =
            $"/api/v1/shorten?key={secret}&placement=Gate%20poster&campaign=Seed%20Swap&url=http://{BeaconHost.GardenHost}/seed-swap?by=tool";
        using var anybody = demo.Host.Anonymous();
        Assert.StartsWith($"http://{demo.Host.ShortHost}/", await anybody.GetStringAsync(shorten), StringComparison.Ordinal);
        anybody.DefaultRequestHeaders.Add("Authorization", $"Bearer {secret}");
        Assert.Equal(HttpStatusCode.Forbidden, (await anybody.GetAsync("/api/v1/links")).StatusCode);

        await owner.DoAsync(HttpMethod.Post, $"/api/v1/keys/{id}/revoke");
        await owner.DoAsync(HttpMethod.Post, $"/api/v1/keys/{id}/revoke");
        using var later = demo.Host.Anonymous();
        Assert.Equal(HttpStatusCode.Unauthorized, (await later.GetAsync(shorten)).StatusCode);
        Assert.Equal(
            0L,
            await demo.Host.ScalarAsync<long>(
                "select count(*) from change_log where before::text like '%' || $1 || '%' or after::text like '%' || $1 || '%'",
                secret
            )
        );
    }

    [Theory]
    [InlineData("", "viewer", "key-name")]
    [InlineData("x", "king", "key-role")]
    [InlineData("x", "7", "key-role")]
    public async Task What_is_no_key_is_refused(string name, string role, string rule)
    {
        using var owner = demo.Host.As("owner");
        Assert.Equal(rule, (await owner.CallAsync(HttpMethod.Post, "/api/v1/keys", new { name, role })).Json.Refusal().Rule);
    }
}

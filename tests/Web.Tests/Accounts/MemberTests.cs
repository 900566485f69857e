using System.Net;
using System.Text.Json.Nodes;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Accounts;

/// <summary>People join, get other roles, leave and find back in; there is always an owner.</summary>
public sealed class MemberTests : IAsyncLifetime
{
    private const string Orla = "orla@marrowmere.example";
    private const string Wren = "wren@marrowmere.example";
    private const string Password = "seven ferns on a wall";

    private BeaconHost _host = null!;
    private HttpClient _owner = null!;

    public async Task InitializeAsync()
    {
        _host = await BeaconHost.StartAsync(demo: false);
        _owner = await BrowserAsync();
        await _owner.DoAsync(
            HttpMethod.Post,
            "/api/account/first-owner",
            new
            {
                name = "Orla Fenwick",
                mail = Orla,
                password = Password,
                workspace = "Marrowmere",
                currency = "EUR",
                timeZone = "Europe/Dublin",
                siteHost = "marrowmere.example",
                shortHost = "mmr.example",
            }
        );
        await RefreshAsync(_owner);
    }

    public async Task DisposeAsync()
    {
        _owner.Dispose();
        await _host.DisposeAsync();
    }

    [Fact]
    public async Task Somebody_joins_by_a_link_that_works_once()
    {
        string secret = await InviteAsync(Wren, "editor");
        using var wren = await BrowserAsync();
        var seen = await wren.DoAsync(HttpMethod.Post, "/api/account/invitation", new { secret });
        Assert.Equal(
            ("Marrowmere", Wren, "editor", "Orla Fenwick"),
            (seen.Text("workspace"), seen.Text("mail"), seen.Text("role"), seen.Text("invitedBy"))
        );
        Assert.False(seen["isKnown"]!.GetValue<bool>());
        Assert.Equal(
            "password-refused",
            await RuleAsync(
                wren,
                new
                {
                    secret,
                    name = "Wren Castell",
                    password = "short",
                }
            )
        );
        Assert.Equal(
            "password-refused",
            await RuleAsync(
                wren,
                new
                {
                    secret,
                    name = "Wren Castell",
                    password = "wren castell marrowmere",
                }
            )
        );
        Assert.Equal(
            "name-refused",
            await RuleAsync(
                wren,
                new
                {
                    secret,
                    name = " \n\u200b",
                    password = Password,
                }
            )
        );

        // Used twice in the same moment, it lets one in.
        using var other = await BrowserAsync();
        var tries = await Task.WhenAll(
            wren.CallAsync(
                HttpMethod.Post,
                "/api/account/invitation/use",
                new
                {
                    secret,
                    name = "Wren\u200b Castell ",
                    password = Password,
                }
            ),
            other.CallAsync(
                HttpMethod.Post,
                "/api/account/invitation/use",
                new
                {
                    secret,
                    name = "Somebody",
                    password = Password,
                }
            )
        );
        Assert.Single(tries, t => t.Status == HttpStatusCode.NoContent);
        Assert.Single(tries, t => t.Status is HttpStatusCode.UnprocessableEntity or HttpStatusCode.Conflict or HttpStatusCode.BadRequest);
        var answer = await _owner.DoAsync(HttpMethod.Get, "/api/v1/members");
        Assert.Equal(2, answer["members"]!.AsArray().Count);
        Assert.Empty(answer["invitations"]!.AsArray());
        using var later = await BrowserAsync();
        Assert.Equal(
            "invitation-over",
            await RuleAsync(
                later,
                new
                {
                    secret,
                    name = "Somebody",
                    password = Password,
                }
            )
        );
        Assert.Equal("member-exists", (await InviteRawAsync(Wren, "viewer")).Json.Refusal().Rule);
        using var signedIn = await SignedInAsync(Wren);
        Assert.Equal(HttpStatusCode.OK, (await signedIn.CallAsync(HttpMethod.Get, "/api/v1/links")).Status);
        Assert.Equal(HttpStatusCode.Forbidden, (await signedIn.CallAsync(HttpMethod.Get, "/api/v1/keys")).Status);
    }

    [Theory]
    [InlineData("revoked")]
    [InlineData("expired")]
    [InlineData("replaced")]
    public async Task A_link_that_is_over_lets_nobody_in(string how)
    {
        string secret = await InviteAsync(Wren, "viewer");
        switch (how)
        {
            case "revoked":
                string id = (await _owner.DoAsync(HttpMethod.Get, "/api/v1/members"))["invitations"]![0].Text("id");
                await _owner.DoAsync(HttpMethod.Delete, $"/api/v1/members/invitations/{id}");
                break;
            case "expired":
                await using (var age = _host.Database.CreateCommand("update invitations set expires_at = now() - interval '1 second'"))
                {
                    await age.ExecuteNonQueryAsync();
                }

                break;
            default:
                await InviteAsync(Wren, "editor");
                break;
        }

        using var wren = await BrowserAsync();
        Assert.Equal(
            "invitation-over",
            (await wren.CallAsync(HttpMethod.Post, "/api/account/invitation", new { secret })).Json.Refusal().Rule
        );
        Assert.Equal(
            "invitation-over",
            await RuleAsync(
                wren,
                new
                {
                    secret,
                    name = "Wren Castell",
                    password = Password,
                }
            )
        );
        Assert.Equal(
            "invitation-over",
            await RuleAsync(
                wren,
                new
                {
                    secret = "guessed",
                    name = "Wren Castell",
                    password = Password,
                }
            )
        );
    }

    [Fact]
    public async Task Roles_change_at_once_and_an_owner_always_stays()
    {
        using var wren = await JoinAsync(Wren, "viewer");
        Assert.Equal(HttpStatusCode.Forbidden, (await wren.CallAsync(HttpMethod.Get, "/api/v1/keys")).Status);
        var members = (await _owner.DoAsync(HttpMethod.Get, "/api/v1/members"))["members"]!.AsArray();
        string orlas = members.First(m => m.Text("mail") == Orla).Text("id"),
            wrens = members.First(m => m.Text("mail") == Wren).Text("id");
        Assert.True(members.First(m => m.Text("mail") == Orla)!["own"]!.GetValue<bool>());
        Assert.Equal(
            "last-owner",
            (await _owner.CallAsync(HttpMethod.Put, $"/api/v1/members/{orlas}", new { role = "editor" })).Json.Refusal().Rule
        );
        Assert.Equal("last-owner", (await _owner.CallAsync(HttpMethod.Delete, $"/api/v1/members/{orlas}")).Json.Refusal().Rule);
        Assert.Equal(
            "role-refused",
            (await _owner.CallAsync(HttpMethod.Put, $"/api/v1/members/{wrens}", new { role = "shortener" })).Json.Refusal().Rule
        );
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await wren.CallAsync(HttpMethod.Put, $"/api/v1/members/{wrens}", new { role = "owner" })).Status
        );
        await _owner.DoAsync(HttpMethod.Put, $"/api/v1/members/{wrens}", new { role = "owner" });
        Assert.Equal(HttpStatusCode.OK, (await wren.CallAsync(HttpMethod.Get, "/api/v1/keys")).Status);

        // Two owners take each other away in the same moment: one stays.
        var both = await Task.WhenAll(
            _owner.CallAsync(HttpMethod.Delete, $"/api/v1/members/{wrens}"),
            wren.CallAsync(HttpMethod.Delete, $"/api/v1/members/{orlas}")
        );
        Assert.Single(both, b => b.Status == HttpStatusCode.NoContent);
        Assert.Equal(1, await _host.ScalarAsync<long>("select count(*) from members where role = 'Owner'"));
    }

    [Fact]
    public async Task Who_is_taken_out_is_out_at_once_and_may_be_invited_again()
    {
        using var wren = await JoinAsync(Wren, "editor");
        string id = await IdOfAsync(Wren);
        await _owner.DoAsync(HttpMethod.Delete, $"/api/v1/members/{id}");
        Assert.Equal(HttpStatusCode.Unauthorized, (await wren.CallAsync(HttpMethod.Get, "/api/v1/links")).Status);

        // The account opens nothing, so its password is chosen anew.
        string secret = await InviteAsync(Wren, "viewer");
        using var again = await BrowserAsync();
        Assert.False((await again.DoAsync(HttpMethod.Post, "/api/account/invitation", new { secret }))["isKnown"]!.GetValue<bool>());
        await again.DoAsync(HttpMethod.Post, "/api/account/invitation/use", new { secret, password = "nine other ferns on it" });
        Assert.Equal(HttpStatusCode.OK, (await again.CallAsync(HttpMethod.Get, "/api/v1/links")).Status);
        var log = await _host.ScalarAsync<long>("select count(*) from change_log where what in ('member', 'invitation')");
        Assert.Equal(5, log); // invited, used, removed, invited, used
    }

    [Fact]
    public async Task A_forgotten_password_is_chosen_anew_and_ends_all_sessions()
    {
        using var wren = await JoinAsync(Wren, "editor");
        string path = $"/api/v1/members/{await IdOfAsync(Wren)}/reset";
        Assert.Equal(HttpStatusCode.Forbidden, (await wren.CallAsync(HttpMethod.Post, path)).Status);
        string secret = SecretOf(await _owner.DoAsync(HttpMethod.Post, path));
        using var back = await BrowserAsync();
        var seen = await back.DoAsync(HttpMethod.Post, "/api/account/invitation", new { secret });
        Assert.True(seen["isReset"]!.GetValue<bool>());
        await back.DoAsync(HttpMethod.Post, "/api/account/invitation/use", new { secret, password = "nine other ferns on it" });
        Assert.Equal(HttpStatusCode.OK, (await back.CallAsync(HttpMethod.Get, "/api/v1/links")).Status);
        Assert.Equal(HttpStatusCode.Unauthorized, (await wren.CallAsync(HttpMethod.Get, "/api/v1/links")).Status);
        using var old = await BrowserAsync();
        Assert.Equal(
            "sign-in-failed",
            (await old.CallAsync(HttpMethod.Post, "/api/account/sign-in", new { mail = Wren, password = Password })).Json.Refusal().Rule
        );
        Assert.Equal("invitation-over", await RuleAsync(old, new { secret, password = Password }));
    }

    [Fact]
    public async Task Everybody_chooses_their_own_name()
    {
        using var wren = await JoinAsync(Wren, "viewer");
        await wren.DoAsync(HttpMethod.Put, "/api/account/name", new { name = "Wren C.\u200b " });
        Assert.Equal("Wren C.", (await wren.DoAsync(HttpMethod.Get, "/api/account"))["person"].Text("name"));
        Assert.Equal("name-refused", (await wren.CallAsync(HttpMethod.Put, "/api/account/name", new { name = " " })).Json.Refusal().Rule);
        Assert.Equal(
            "Wren C.",
            (await _owner.DoAsync(HttpMethod.Get, "/api/v1/members"))["members"]!.AsArray().First(m => m.Text("mail") == Wren).Text("name")
        );
    }

    [Theory]
    [InlineData("")]
    [InlineData("nobody")]
    [InlineData("a@b@c")]
    [InlineData("Wren <wren@marrowmere.example>")]
    [InlineData("wren@marrowmere.example\nBcc: all@marrowmere.example")]
    public async Task What_is_no_mail_address_is_refused(string mail) =>
        Assert.Equal("mail-refused", (await InviteRawAsync(mail, "viewer")).Json.Refusal().Rule);

    private async Task<HttpClient> BrowserAsync()
    {
        var browser = new HttpClient(new SocketsHttpHandler { CookieContainer = new CookieContainer(), AllowAutoRedirect = false })
        {
            BaseAddress = new Uri($"http://127.0.0.1:{_host.Port}"),
        };
        await RefreshAsync(browser);
        return browser;
    }

    private static async Task RefreshAsync(HttpClient browser)
    {
        var state = await browser.DoAsync(HttpMethod.Get, "/api/account");
        browser.DefaultRequestHeaders.Remove("X-Beacon-Token");
        browser.DefaultRequestHeaders.Add("X-Beacon-Token", state.Text("token"));
    }

    private async Task<HttpClient> SignedInAsync(string mail)
    {
        var browser = await BrowserAsync();
        await browser.DoAsync(HttpMethod.Post, "/api/account/sign-in", new { mail, password = Password });
        await RefreshAsync(browser);
        return browser;
    }

    private async Task<HttpClient> JoinAsync(string mail, string role)
    {
        var browser = await BrowserAsync();
        await browser.DoAsync(
            HttpMethod.Post,
            "/api/account/invitation/use",
            new
            {
                secret = await InviteAsync(mail, role),
                name = "Wren Castell",
                password = Password,
            }
        );
        await RefreshAsync(browser);
        return browser;
    }

    private async Task<string> InviteAsync(string mail, string role) => SecretOf((await InviteRawAsync(mail, role)).Json!);

    private Task<(HttpStatusCode Status, JsonNode? Json)> InviteRawAsync(string mail, string role) =>
        _owner.CallAsync(HttpMethod.Post, "/api/v1/members/invitations", new { mail, role });

    private static string SecretOf(JsonNode made) => new Uri(made.Text("address")).Fragment[1..];

    private static async Task<string> RuleAsync(HttpClient browser, object use) =>
        (await browser.CallAsync(HttpMethod.Post, "/api/account/invitation/use", use)).Json.Refusal().Rule;

    private async Task<string> IdOfAsync(string mail) =>
        (await _owner.DoAsync(HttpMethod.Get, "/api/v1/members"))["members"]!.AsArray().First(m => m.Text("mail") == mail).Text("id");
}

using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.Extensions.DependencyInjection;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Accounts;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Accounts;

/// <summary>People's sessions, passwords and keys: what ends is over everywhere, and a guesser slows only themselves.</summary>
public sealed class SessionTests : IAsyncLifetime
{
    private const string Mail = "orla@marrowmere.example";
    private const string Password = "seven ferns on a wall";

    private BeaconHost _host = null!;

    public async Task InitializeAsync()
    {
        _host = await BeaconHost.StartAsync(demo: false, more: "--Beacon:TrustedProxies:0=127.0.0.1");
        using var owner = await BrowserAsync();
        await owner.DoAsync(
            HttpMethod.Post,
            "/api/account/first-owner",
            new
            {
                name = "Orla Fenwick",
                mail = Mail,
                password = Password,
                workspace = "Marrowmere",
                currency = "EUR",
                timeZone = "Europe/Dublin",
                siteHost = "marrowmere.example",
                shortHost = "mmr.example",
            }
        );
    }

    public async Task DisposeAsync() => await _host.DisposeAsync();

    /// <summary>A browser at an address of its own, with the page's token.</summary>
    private async Task<HttpClient> BrowserAsync(string address = "198.51.100.7")
    {
        var browser = new HttpClient(new SocketsHttpHandler { CookieContainer = new CookieContainer(), AllowAutoRedirect = false })
        {
            BaseAddress = new Uri($"http://127.0.0.1:{_host.Port}"),
        };
        browser.DefaultRequestHeaders.Add("X-Forwarded-For", address);
        browser.DefaultRequestHeaders.TryAddWithoutValidation("User-Agent", "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1");
        await RefreshAsync(browser);
        return browser;
    }

    private static async Task<JsonNode> RefreshAsync(HttpClient browser)
    {
        var state = await browser.DoAsync(HttpMethod.Get, "/api/account");
        browser.DefaultRequestHeaders.Remove("X-Beacon-Token");
        browser.DefaultRequestHeaders.Add("X-Beacon-Token", state.Text("token"));
        return state;
    }

    private static async Task<HttpStatusCode> TryAsync(
        HttpClient browser,
        string password,
        string mail = Mail,
        string path = "/api/account/sign-in"
    )
    {
        using var answer = await browser.PostAsJsonAsync(path, new { mail, password });
        return answer.StatusCode;
    }

    private async Task<HttpClient> SignedInAsync(string address = "198.51.100.7")
    {
        var browser = await BrowserAsync(address);
        Assert.Equal(HttpStatusCode.NoContent, await TryAsync(browser, Password));
        await RefreshAsync(browser);
        return browser;
    }

    private static async Task<bool> IsInAsync(HttpClient browser) =>
        (await browser.GetAsync("/api/v1/links")).StatusCode == HttpStatusCode.OK;

    [Fact]
    public async Task Signing_out_ends_the_session_wherever_its_cookie_was_copied_to()
    {
        using var browser = await BrowserAsync();
        using var signIn = await browser.PostAsJsonAsync("/api/account/sign-in", new { mail = Mail, password = Password });
        string cookie = signIn.Headers.GetValues("Set-Cookie").Single(c => c.StartsWith("beacon=", StringComparison.Ordinal)).Split(';')[0];
        using var thief = new HttpClient(new SocketsHttpHandler { UseCookies = false }) { BaseAddress = browser.BaseAddress };
        thief.DefaultRequestHeaders.Add("Cookie", cookie);
        Assert.True(await IsInAsync(thief));
        await RefreshAsync(browser);
        await browser.DoAsync(HttpMethod.Post, "/api/account/sign-out");
        Assert.False(await IsInAsync(thief));
        Assert.False(await IsInAsync(browser));
    }

    [Fact]
    public async Task Sessions_are_listed_and_ended_one_by_one_and_all_others_at_once()
    {
        using var office = await SignedInAsync();
        using var train = await SignedInAsync();
        using var home = await SignedInAsync();
        var sessions = (await office.DoAsync(HttpMethod.Get, "/api/account/sessions")).AsArray();
        Assert.Equal(4, sessions.Count); // the first owner's own visit too
        Assert.Equal("phone", Assert.Single(sessions, s => s!["own"]!.GetValue<bool>()).Text("device"));

        var trains = (await train.DoAsync(HttpMethod.Get, "/api/account/sessions")).AsArray().Single(s => s!["own"]!.GetValue<bool>());
        await office.DoAsync(HttpMethod.Delete, $"/api/account/sessions/{trains.Text("id")}");
        Assert.Equal((true, false, true), (await IsInAsync(office), await IsInAsync(train), await IsInAsync(home)));
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await office.CallAsync(HttpMethod.Delete, $"/api/account/sessions/{Guid.NewGuid()}")).Status
        );
        Assert.Equal(2, (await office.DoAsync(HttpMethod.Post, "/api/account/sessions/end-others")).Whole("ended"));
        Assert.Equal((true, false), (await IsInAsync(office), await IsInAsync(home)));
    }

    [Fact]
    public async Task A_changed_password_ends_the_others_and_weak_ones_are_refused()
    {
        using var office = await SignedInAsync();
        using var train = await SignedInAsync();
        const string Next = "nine mosses under an oak";
        Assert.Equal(("sign-in-failed", HttpStatusCode.BadRequest), await ChangeAsync("wrong", Next));
        Assert.Equal(("password-refused", HttpStatusCode.BadRequest), await ChangeAsync(Password, "short"));
        Assert.Equal(("password-refused", HttpStatusCode.BadRequest), await ChangeAsync(Password, "passwordpassword"));
        Assert.Equal(("password-refused", HttpStatusCode.BadRequest), await ChangeAsync(Password, "Orla-Fenwick-Marrowmere-1"));
        Assert.True(await IsInAsync(train));
        Assert.Equal(("", HttpStatusCode.NoContent), await ChangeAsync(Password, Next));
        Assert.Equal((true, false), (await IsInAsync(office), await IsInAsync(train)));
        using var again = await BrowserAsync();
        Assert.Equal((HttpStatusCode.BadRequest, HttpStatusCode.NoContent), (await TryAsync(again, Password), await TryAsync(again, Next)));

        async Task<(string, HttpStatusCode)> ChangeAsync(string current, string next)
        {
            var (status, json) = await office.CallAsync(HttpMethod.Post, "/api/account/password", new { current, next });
            return (json is null ? "" : json.Text("rule"), status);
        }
    }

    [Fact]
    public async Task Wrong_passwords_slow_down_who_tries_them_and_nobody_else()
    {
        using var known = await SignedInAsync("203.0.113.5");
        await known.DoAsync(HttpMethod.Post, "/api/account/sign-out");
        await RefreshAsync(known);
        using var guesser = await BrowserAsync("203.0.113.5"); // behind the same address as the owner
        var answers = new List<HttpStatusCode>();
        for (int i = 0; i < 12; i++)
        {
            answers.Add(await TryAsync(guesser, $"guess {i}"));
        }

        Assert.Equal((HttpStatusCode.BadRequest, HttpStatusCode.TooManyRequests), (answers[0], answers[^1]));
        Assert.Equal(HttpStatusCode.TooManyRequests, await TryAsync(guesser, Password));

        // From elsewhere, and from a device they have used before, the owner signs in as ever.
        using var elsewhere = await BrowserAsync("198.51.100.99");
        Assert.Equal(HttpStatusCode.NoContent, await TryAsync(elsewhere, Password));
        Assert.Equal(HttpStatusCode.NoContent, await TryAsync(known, Password));
    }

    [Fact]
    public async Task The_sign_in_is_limited_however_its_address_is_written_and_a_network_counts_as_one()
    {
        string[] spellings = ["/api/account/sign-in", "/api/account/sign-in/", "/API/account/SIGN-IN", "/api/account/sign%2Din"];
        var guessers = await Task.WhenAll(Enumerable.Range(0, 120).Select(i => BrowserAsync($"2001:db8:1:2:{i:x}::{i:x}")));
        long since = Stopwatch.GetTimestamp();
        var answers = await Task.WhenAll(
            guessers.Select((g, i) => TryAsync(g, "guess", $"nobody{i}@marrowmere.example", spellings[i % spellings.Length]))
        );
        Array.ForEach(guessers, g => g.Dispose());

        // Sixty in a row, and twenty more whenever a minute is over.
        Assert.InRange(
            answers.Count(a => a == HttpStatusCode.BadRequest),
            60,
            80 + (20 * (int)Stopwatch.GetElapsedTime(since).TotalMinutes)
        );
        Assert.All(answers, a => Assert.True(a is HttpStatusCode.BadRequest or HttpStatusCode.TooManyRequests));
        using var neighbour = await BrowserAsync("2001:db8:1:3::1");
        Assert.Equal(HttpStatusCode.NoContent, await TryAsync(neighbour, Password));
    }

    /// <summary>The work is the same: one comparison of hashes, by far the most of it. Measured side by side, so that a busy machine slows both.</summary>
    [Fact]
    public async Task Known_and_unknown_addresses_take_the_same_time()
    {
        var known = new List<double>();
        var unknown = new List<double>();
        for (int i = 0; i < 9; i++)
        {
            using var browser = await BrowserAsync($"198.51.101.{i}");
            known.Add(await TimeAsync(browser, Mail));
            unknown.Add(await TimeAsync(browser, "nobody@marrowmere.example"));
        }

        double ratio = known.Order().ElementAt(4) / unknown.Order().ElementAt(4);
        Assert.InRange(ratio, 0.33, 3); // it was about a hundred

        static async Task<double> TimeAsync(HttpClient browser, string mail)
        {
            long began = System.Diagnostics.Stopwatch.GetTimestamp();
            Assert.Equal(HttpStatusCode.BadRequest, await TryAsync(browser, "not this one, surely", mail));
            return System.Diagnostics.Stopwatch.GetElapsedTime(began).TotalMilliseconds;
        }
    }

    [Fact]
    public async Task Keys_expire_and_say_when_they_were_used_last()
    {
        using var owner = await SignedInAsync();
        Assert.Equal("key-days", (
                await owner.CallAsync(
                    HttpMethod.Post,
                    "/api/v1/keys",
                    new
                    {
                        name = "Till",
                        role = "viewer",
                        days = 0,
                    }
                )
            ).Json.Refusal().Rule);
        var made = await owner.DoAsync(
            HttpMethod.Post,
            "/api/v1/keys",
            new
            {
                name = "Till",
                role = "viewer",
                days = 1,
            }
        );
        using var till = _host.Client(made.Text("secret"));
        Assert.True(await IsInAsync(till));
        await _host.Services.GetRequiredService<KeyUses>().WriteAsync(CancellationToken.None);
        var key = (await owner.DoAsync(HttpMethod.Get, "/api/v1/keys")).AsArray().Single(k => k.Text("name") == "Till");
        Assert.NotNull(key!["lastUsedAt"]);
        Assert.InRange(
            key["expiresAt"]!.GetValue<DateTimeOffset>() - DateTimeOffset.UtcNow,
            TimeSpan.FromHours(23),
            TimeSpan.FromHours(25)
        );
        await using var over = _host.Database.CreateCommand(
            "update api_keys set expires_at = now() - interval '1 second' where name = 'Till'"
        );
        await over.ExecuteNonQueryAsync();
        Assert.False(await IsInAsync(till));
    }

    [Fact]
    public async Task Sessions_end_by_themselves_and_what_has_had_its_time_is_cleared()
    {
        using var idle = await SignedInAsync();
        using var old = await SignedInAsync();
        await using (
            var age = _host.Database.CreateCommand(
                """
                update user_sessions set seen_at = now() - interval '12 hours 1 minute' where id = (select id from user_sessions order by started_at desc offset 1 limit 1);
                update user_sessions set started_at = now() - interval '14 days 1 minute' where id = (select id from user_sessions order by started_at desc limit 1);
                insert into idempotent_answers select id, 'kept', ''::bytea, 'null', now() - interval '23 hours' from workspaces;
                insert into idempotent_answers select id, 'gone', ''::bytea, 'null', now() - interval '25 hours' from workspaces;
                insert into slug_change (short_link_id, told_at) select gen_random_uuid(), now() - interval '3 days' from generate_series(1, 10);
                insert into slug_change (short_link_id, told_at) values (gen_random_uuid(), now() - interval '3 days')
                """
            )
        )
        {
            await age.ExecuteNonQueryAsync();
        }

        Assert.Equal((false, false), (await IsInAsync(idle), await IsInAsync(old)));
        await _host.Services.GetRequiredService<Housekeeping>().ClearAsync(DateTimeOffset.UtcNow, CancellationToken.None);
        Assert.Equal(1L, await _host.ScalarAsync<long>("select count(*) from user_sessions"));
        Assert.Equal("kept", await _host.ScalarAsync<string>("select string_agg(key, ',') from idempotent_answers"));
        Assert.Equal(1L, await _host.ScalarAsync<long>("select count(*) from slug_change"));
    }
}

using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Demo;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Accounts;

public sealed class SignInTests
{
    private static readonly object Owner = new
    {
        name = "Orla Fenwick",
        mail = "orla@marrowmere.example",
        password = "a long enough password",
        workspace = "Marrowmere",
        currency = "EUR",
        timeZone = "Europe/Dublin",
        siteHost = "marrowmere.example",
        shortHost = "mmr.example",
        start = "sealed",
    };

    private static async Task<JsonNode> BeginAsync(HttpClient browser)
    {
        var state = JsonNode.Parse(await browser.GetStringAsync("/api/account"))!;
        browser.DefaultRequestHeaders.Remove("X-Beacon-Token");
        browser.DefaultRequestHeaders.Add("X-Beacon-Token", state["token"]!.GetValue<string>());
        return state;
    }

    [Fact]
    public async Task The_first_visit_makes_the_owner_once_and_then_people_sign_in()
    {
        await using var host = await BeaconHost.StartAsync(demo: false);
        using var browser = host.Anonymous();
        var empty = await BeginAsync(browser);
        Assert.True(empty["needsFirstOwner"]!.GetValue<bool>());
        Assert.Equal(
            ["plain", "date-first", "region-and-channel", "sealed"],
            empty["starts"]!.AsArray().Select(s => s!["name"]!.GetValue<string>())
        );

        Assert.Equal(HttpStatusCode.BadRequest, (await browser.PostAsJsonAsync("/api/account/first-owner", new { name = "x" })).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, (await browser.PostAsJsonAsync("/api/account/first-owner", Owner)).StatusCode);
        var state = await BeginAsync(browser);
        Assert.Equal("owner", state["person"]!["role"]!.GetValue<string>());
        Assert.Empty(state["demoPeople"]!.AsArray());

        // The owner can build at once, under the starting convention and on the short domain given.
        using var saved = await browser.PostAsJsonAsync(
            "/api/v1/links",
            new
            {
                destination = "https://marrowmere.example/x",
                fields = new
                {
                    source = "the trellis",
                    medium = "email",
                    campaign = "spring",
                },
            }
        );
        string answer = await saved.Content.ReadAsStringAsync();
        Assert.Contains("https://mmr.example/", answer, StringComparison.Ordinal);
        Assert.Contains("https://marrowmere.example/x?k=", answer, StringComparison.Ordinal);
        Assert.Contains("Newsletter – main button", await browser.GetStringAsync("/api/v1/placements"), StringComparison.Ordinal);

        using var second = host.Anonymous();
        await BeginAsync(second);
        Assert.Equal(HttpStatusCode.Conflict, (await second.PostAsJsonAsync("/api/account/first-owner", Owner)).StatusCode);
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await second.PostAsJsonAsync("/api/account/sign-in", new { mail = "orla@marrowmere.example", password = "wrong" })).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.NoContent,
            (
                await second.PostAsJsonAsync(
                    "/api/account/sign-in",
                    new { mail = "orla@marrowmere.example", password = "a long enough password" }
                )
            ).StatusCode
        );

        // Demo keys exist in the demo only.
        Assert.Equal(HttpStatusCode.Unauthorized, (await host.As("owner").GetAsync("/api/v1/links")).StatusCode);
    }

    [Fact]
    public async Task Without_a_short_domain_the_servers_own_host_serves_short_links_until_one_is_added()
    {
        await using var host = await BeaconHost.StartAsync(demo: false);
        using var browser = host.Anonymous();
        await BeginAsync(browser);
        Assert.Equal(
            HttpStatusCode.NoContent,
            (
                await browser.PostAsJsonAsync(
                    "/api/account/first-owner",
                    new
                    {
                        name = "Orla Fenwick",
                        mail = "orla@marrowmere.example",
                        password = "a long enough password",
                        workspace = "Marrowmere",
                        currency = "EUR",
                        timeZone = "Europe/Dublin",
                        siteHost = "marrowmere.example",
                        shortHost = " ",
                    }
                )
            ).StatusCode
        );
        await BeginAsync(browser);
        var domain = Assert.Single(JsonNode.Parse(await browser.GetStringAsync("/api/v1/short-domains"))!.AsArray())!;
        Assert.True(domain["usable"]!.GetValue<bool>());
        Assert.Null(domain["problem"]);

        object Link(string slug) =>
            new
            {
                destination = "https://marrowmere.example/x",
                slug,
                fields = new
                {
                    source = "the trellis",
                    medium = "email",
                    campaign = "spring",
                },
            };
        using var saved = await browser.PostAsJsonAsync("/api/v1/links", Link("fern-walk"));
        string shortUrl = JsonNode.Parse(await saved.Content.ReadAsStringAsync())!["shortUrl"]!.GetValue<string>();
        Assert.Equal($"{domain["url"]!.GetValue<string>()}/fern-walk", shortUrl);
        await Eventually.Async(async () =>
        {
            using var click = await browser.GetAsync(new Uri(shortUrl).AbsolutePath);
            return click.StatusCode == HttpStatusCode.Found
                && click.Headers.Location!.OriginalString.StartsWith("https://marrowmere.example/x?", StringComparison.Ordinal);
        });

        // What is neither a link nor a place of the interface was meant as a link; places can't be taken.
        using var unknown = await browser.GetAsync("/fern-wolk");
        Assert.Equal(HttpStatusCode.NotFound, unknown.StatusCode);
        Assert.Contains("There is no link at this address", await unknown.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.OK, (await browser.GetAsync("/healthz")).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await browser.PostAsJsonAsync("/api/v1/links", Link("ledger"))).StatusCode);
        using var proof = await browser.PostAsync($"/api/v1/short-domains/{domain["id"]}/check", null);
        Assert.Equal(HttpStatusCode.OK, proof.StatusCode);
    }

    [Fact]
    public async Task No_chosen_slug_hides_a_place_of_the_interface_or_a_call()
    {
        await using var host = await BeaconHost.StartAsync(demo: false);
        var first = ClientFiles
            .Addresses.Concat(AccessGate.Endpoints(host.Services.GetRequiredService<EndpointDataSource>().Endpoints).Select(l => l.Route))
            .Select(a => a.Split('/', StringSplitOptions.RemoveEmptyEntries).FirstOrDefault() ?? "")
            .Where(w => w.Length >= 2 && !w.StartsWith('.') && !w.StartsWith('{'))
            .Distinct()
            .ToList();
        Assert.True(first.Count > 10);
        Assert.All(first.Where(w => w.All(c => char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c) || c == '-')), w =>
            Assert.NotNull(SlugMaker.WhyNotChosen(w))
        );
    }

    [Fact]
    public async Task What_a_person_has_the_ledger_show_follows_them_to_another_browser_and_nobody_else()
    {
        await using var host = await BeaconHost.StartAsync();
        using var office = await SignedInAsync("tomas");
        Assert.Null((await BeginAsync(office))["person"]!["ledgerColumns"]);
        Assert.Equal(
            HttpStatusCode.NoContent,
            (
                await office.PutAsJsonAsync("/api/account/ledger-columns", new { columns = new[] { "clicks", "campaign", "clicks" } })
            ).StatusCode
        );
        using var train = await SignedInAsync("tomas");
        Assert.Equal(
            ["clicks", "campaign"],
            (await BeginAsync(train))["person"]!["ledgerColumns"]!.AsArray().Select(c => c!.GetValue<string>())
        );
        using var other = await SignedInAsync("wren");
        Assert.Null((await BeginAsync(other))["person"]!["ledgerColumns"]);

        // Back to the usual ones; what can be no columns changes nothing; a program has no view of its own.
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await office.PutAsJsonAsync("/api/account/ledger-columns", new { columns = new[] { new string('x', 41) } })).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.NoContent,
            (await train.PutAsJsonAsync("/api/account/ledger-columns", new { columns = (string[]?)null })).StatusCode
        );
        Assert.Null((await BeginAsync(office))["person"]!["ledgerColumns"]);
        using var program = host.As("owner");
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await program.PutAsJsonAsync("/api/account/ledger-columns", new { columns = new[] { "clicks" } })).StatusCode
        );

        async Task<HttpClient> SignedInAsync(string name)
        {
            var browser = host.Anonymous();
            var state = await BeginAsync(browser);
            string mail = state["demoPeople"]!
                .AsArray()
                .Select(p => p!.Text("mail"))
                .Single(m => m.StartsWith(name, StringComparison.Ordinal));
            Assert.Equal(HttpStatusCode.NoContent, (await browser.PostAsJsonAsync("/api/account/sign-in", new { mail })).StatusCode);
            await BeginAsync(browser);
            return browser;
        }
    }

    [Fact]
    public async Task A_demo_person_signs_in_by_name_and_changes_need_the_pages_token()
    {
        await using var host = await BeaconHost.StartAsync();
        using var browser = host.Anonymous();
        await BeginAsync(browser);
        Assert.Equal(
            HttpStatusCode.NoContent,
            (await browser.PostAsJsonAsync("/api/account/sign-in", new { mail = DemoPeople.All[1].Mail })).StatusCode
        );
        await BeginAsync(browser);
        object link = new
        {
            destination = $"http://{BeaconHost.GardenHost}/visit",
            campaign = "Lantern Nights",
            placement = "Gate poster",
        };
        Assert.Equal(HttpStatusCode.OK, (await browser.PostAsJsonAsync("/api/v1/links/compose", link)).StatusCode);

        // What a person makes is signed with their name, as people know it.
        using var saved = await browser.PostAsJsonAsync("/api/v1/links", link);
        Assert.Equal(HttpStatusCode.Created, saved.StatusCode);
        Assert.Equal(1L, await host.ScalarAsync<long>("select count(*) from links where created_by = $1", DemoPeople.All[1].Name));

        browser.DefaultRequestHeaders.Remove("X-Beacon-Token");
        using var forged = await browser.PostAsJsonAsync("/api/v1/links", link);
        Assert.Equal(HttpStatusCode.BadRequest, forged.StatusCode);
        Assert.Contains("page-too-old", await forged.Content.ReadAsStringAsync(), StringComparison.Ordinal);

        // A role taken away is gone at once.
        await using var command = host.Database.CreateCommand("delete from members");
        await command.ExecuteNonQueryAsync();
        Assert.Equal(HttpStatusCode.Unauthorized, (await browser.GetAsync("/api/v1/links")).StatusCode);
    }

    [Fact]
    public async Task Guessing_keys_is_slowed_down_and_a_right_key_still_works()
    {
        await using var host = await BeaconHost.StartAsync();
        var answers = new List<HttpStatusCode>();
        for (int i = 0; i < 70; i++)
        {
            using var guesser = host.Client($"guess-{i}");
            answers.Add((await guesser.GetAsync("/api/v1/links")).StatusCode);
        }

        Assert.Equal((HttpStatusCode.Unauthorized, HttpStatusCode.TooManyRequests), (answers[0], answers[^1]));
        Assert.Equal(HttpStatusCode.OK, (await host.As("owner").GetAsync("/api/v1/links")).StatusCode);
    }

    [Fact]
    public async Task A_real_start_on_demo_data_is_refused()
    {
        await using var host = await BeaconHost.StartAsync();
        string data = Directory.CreateTempSubdirectory("beacon-test-").FullName;
        await using var real = BeaconApp.Build(BeaconHost.Arguments(host.Connection, data, DatabaseCluster.FreePort(), demo: false, 0));
        Assert.Contains(
            "holds the demo",
            await real.Services.GetRequiredService<DatabaseSetup>().TryAsync(CancellationToken.None),
            StringComparison.Ordinal
        );
    }

    /// <summary>The product runs without the demo, and says so where it is asked for it.</summary>
    [Fact]
    public async Task A_copy_without_the_demo_starts_empty_and_refuses_to_be_the_demo()
    {
        string connection = await DatabaseCluster.NewDatabaseAsync();
        string data = Directory.CreateTempSubdirectory("beacon-test-").FullName;
        await using (var empty = BeaconApp.Build(BeaconHost.Arguments(connection, data, DatabaseCluster.FreePort(), demo: false, 0)))
        {
            Assert.Null(await empty.Services.GetRequiredService<DatabaseSetup>().TryAsync(CancellationToken.None));
        }

        await using (var demo = BeaconApp.Build(BeaconHost.Arguments(connection, data, DatabaseCluster.FreePort(), demo: true, 0)))
        {
            Assert.Contains(
                "has no demo",
                await demo.Services.GetRequiredService<DatabaseSetup>().TryAsync(CancellationToken.None),
                StringComparison.Ordinal
            );
        }

        await DatabaseCluster.DropAsync(connection);
    }
}

using System.Net;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Plan;

[Collection(nameof(DemoHost))]
public sealed class PlacementTests(DemoHost demo)
{
    private const string Page = $"http://{BeaconHost.GardenHost}/seed-swap";

    private static string NewName() => $"Allotment board {Guid.NewGuid():N}"[..26];

    private static object Board(string name, int revision = 0, object? asks = null, object? toolWrites = null, object? useDays = null) =>
        new
        {
            name,
            channel = "Communities",
            publisher = "Vale Growers",
            defaults = new
            {
                Source = "pippinwall",
                utm_medium = "community",
                utm_content = "@{page}_@{region}",
            },
            asks,
            toolWrites,
            useDays,
            tags = new[] { "group", "Group", " " },
            shareForm = "Dear all,\n@{text}",
            costPerClick = 0.07m,
            revision,
        };

    [Fact]
    public async Task A_placement_carries_everything_its_links_need()
    {
        using var client = demo.Host.As("editor");
        string name = NewName();
        var made = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/placements",
            Board(name, asks: new[] { "Term" }, toolWrites: new { Medium = "" }, useDays: new[] { 1, 2, 3, 4, 5, 6, 7 })
        );
        Assert.Equal("pippinwall", made["defaults"].Text("utm_source")); // by label or key, stored by key
        Assert.Equal("[\"group\"]", made["tags"]!.ToJsonString());
        Assert.True(made["mayUseToday"]!.GetValue<bool>());

        var link = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/links/compose",
            new
            {
                destination = Page,
                campaign = "Seed Swap",
                placement = made.Text("id"),
            }
        );
        Assert.Contains("utm_content=seed-swap_north", link.Text("url"), StringComparison.Ordinal);
        var rules = link["notices"]!.AsArray().Select(n => n.Text("rule")).ToList();
        Assert.Contains("missing-required", rules);
        Assert.Contains("tool-overwrites", rules);
        Assert.False(link["ready"]!.GetValue<bool>());

        var typed = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/links/compose",
            new
            {
                destination = Page,
                campaign = "Seed Swap",
                placement = name,
                fields = new { term = "heirloom beans" },
            }
        );
        Assert.True(typed["ready"]!.GetValue<bool>());

        var (status, problem) = await client.CallAsync(HttpMethod.Put, $"/api/v1/placements/{made.Text("id")}", Board(name, revision: 7));
        Assert.Equal((HttpStatusCode.Conflict, "changed-meanwhile"), (status, problem.Refusal().Rule));
        var changed = await client.DoAsync(HttpMethod.Put, $"/api/v1/placements/{made.Text("id")}", Board(name, revision: 1));
        Assert.Equal(2, changed.Whole("revision"));
    }

    [Theory]
    [InlineData("{\"name\":\"\",\"channel\":\"Partners\"}", 400)]
    [InlineData("{\"name\":\"No channel\"}", 400)]
    [InlineData("{\"name\":\"Strange field\",\"channel\":\"Partners\",\"defaults\":{\"colour\":\"green\"}}", 400)]
    [InlineData("{\"name\":\"Strange ask\",\"channel\":\"Partners\",\"asks\":[\"colour\"]}", 400)]
    [InlineData("{\"name\":\"Eighth day\",\"channel\":\"Partners\",\"useDays\":[8]}", 400)]
    [InlineData("{\"name\":\"Gift\",\"channel\":\"Partners\",\"costPerClick\":-0.1}", 400)]
    [InlineData("{\"name\":\"Gate poster\",\"channel\":\"Print and codes\"}", 409)]
    public async Task A_placement_that_cannot_be_is_refused(string body, int status)
    {
        using var client = demo.Host.As("editor");
        using var answer = await client.PostAsync(
            "/api/v1/placements",
            new StringContent(body, System.Text.Encoding.UTF8, "application/json")
        );
        Assert.Equal(status, (int)answer.StatusCode);
    }

    [Fact]
    public async Task Merging_moves_links_plans_and_sets_and_leaves_what_links_say()
    {
        using var client = demo.Host.As("editor");
        string gone = (await client.DoAsync(HttpMethod.Post, "/api/v1/placements", Board(NewName()))).Text("id");
        string stays = (await client.DoAsync(HttpMethod.Post, "/api/v1/placements", Board(NewName()))).Text("id");
        var set = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/placement-sets",
            new { name = NewName(), placements = new[] { gone, stays } }
        );
        var link = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/links",
            new
            {
                destination = Page,
                campaign = "Seed Swap",
                placement = gone,
            }
        );
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await client.CallAsync(HttpMethod.Post, $"/api/v1/placements/{gone}/merge", new { into = gone })).Status
        );

        var merged = await client.DoAsync(HttpMethod.Post, $"/api/v1/placements/{gone}/merge", new { into = stays });
        Assert.Equal((1, 0, 1), (merged.Whole("links"), merged.Whole("planned"), merged.Whole("sets")));
        var row = await client.DoAsync(HttpMethod.Get, $"/api/v1/links/{link.Text("id")}");
        Assert.Equal((stays, link["link"].Text("url")), (row.Text("placementId"), row.Text("url")));
        var sets = (await client.DoAsync(HttpMethod.Get, "/api/v1/placement-sets")).AsArray();
        Assert.Equal($"[\"{stays}\"]", sets.Single(s => s.Text("id") == set.Text("id"))!["placements"]!.ToJsonString());
        Assert.Equal(HttpStatusCode.NotFound, (await client.CallAsync(HttpMethod.Post, $"/api/v1/placements/{gone}/retire")).Status);
    }

    [Fact]
    public async Task A_retired_placement_is_offered_no_more_until_it_is_brought_back()
    {
        using var client = demo.Host.As("editor");
        string id = (await client.DoAsync(HttpMethod.Post, "/api/v1/placements", Board(NewName()))).Text("id");
        await client.DoAsync(HttpMethod.Post, $"/api/v1/placements/{id}/retire");
        Assert.DoesNotContain((await client.DoAsync(HttpMethod.Get, "/api/v1/placements")).AsArray(), p => p.Text("id") == id);
        Assert.True(
            (await client.DoAsync(HttpMethod.Get, "/api/v1/placements?retired=true")).AsArray().Single(p => p.Text("id") == id)![
                "retired"
            ]!.GetValue<bool>()
        );
        await client.DoAsync(HttpMethod.Post, $"/api/v1/placements/{id}/restore");
        Assert.Contains((await client.DoAsync(HttpMethod.Get, "/api/v1/placements")).AsArray(), p => p.Text("id") == id);
    }

    [Fact]
    public async Task A_set_needs_a_name_of_its_own_and_placements_of_this_workspace()
    {
        using var client = demo.Host.As("editor");
        string[] one = [(await client.DoAsync(HttpMethod.Get, "/api/v1/placements")).AsArray()[0].Text("id")];
        string name = NewName();
        var set = await client.DoAsync(HttpMethod.Post, "/api/v1/placement-sets", new { name, placements = one });
        Assert.Equal(
            HttpStatusCode.Conflict,
            (await client.CallAsync(HttpMethod.Post, "/api/v1/placement-sets", new { name, placements = one })).Status
        );
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (
                await client.CallAsync(
                    HttpMethod.Put,
                    $"/api/v1/placement-sets/{set.Text("id")}",
                    new { name, placements = new[] { Guid.NewGuid() } }
                )
            ).Status
        );
        await client.DoAsync(HttpMethod.Delete, $"/api/v1/placement-sets/{set.Text("id")}");
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await client.CallAsync(HttpMethod.Delete, $"/api/v1/placement-sets/{set.Text("id")}")).Status
        );
    }
}

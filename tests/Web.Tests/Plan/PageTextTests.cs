using System.Net;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Plan;

[Collection(nameof(DemoHost))]
public sealed class PageTextTests(DemoHost demo)
{
    private const string Page = $"{BeaconHost.GardenHost}/bulb-sale";

    [Fact]
    public async Task A_text_is_filled_for_each_placement_kept_under_its_revision_and_ticked_off()
    {
        using var client = demo.Host.As("editor");
        var campaign = await client.DoAsync(HttpMethod.Post, "/api/v1/campaigns", new { name = $"Tulips {Guid.NewGuid():N}" });
        string id = campaign.Text("id");
        string[] placements = ["Nattervine families up north", "Pippinwall growers’ group"];
        var saved = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/links/many",
            new
            {
                links = placements.Select(p => new
                {
                    destination = $"http://{Page}",
                    campaign = id,
                    placement = p,
                }),
            }
        );
        Assert.Equal(2, saved.Whole("saved"));

        var filled = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/share-texts/fill",
            new
            {
                campaign = id,
                page = Page,
                text = "@{page}, says @{publisher}: @{link} @{price}",
            }
        );
        var texts = filled["texts"]!.AsArray().ToDictionary(t => t.Text("placement"));
        string link = saved["links"]!
            .AsArray()
            .Single(l => l!["saved"]!["link"].Text("url").Contains("families_north", StringComparison.Ordinal))!["saved"]
            .Text("shortUrl");
        Assert.Equal($"Hello everyone!\nBulb Sale, says Nattervine: {link} @{{price}}", texts[placements[0]].Text("text"));
        Assert.Equal(texts[placements[0]].Text("text").Length, texts[placements[0]].Whole("characters"));
        Assert.Equal("[\"price\"]", texts[placements[0]]!["missing"]!.ToJsonString());

        Assert.Equal(
            1,
            (
                await client.DoAsync(
                    HttpMethod.Put,
                    "/api/v1/share-texts",
                    new
                    {
                        campaign = id,
                        page = Page,
                        text = "Come!",
                        revision = 0,
                    }
                )
            ).Whole("revision")
        );
        var (status, problem) = await client.CallAsync(
            HttpMethod.Put,
            "/api/v1/share-texts",
            new
            {
                campaign = id,
                page = Page,
                text = "Later",
                revision = 0,
            }
        );
        Assert.Equal((HttpStatusCode.Conflict, "Come!"), (status, problem!["theirs"].Text("text")));

        await client.DoAsync(HttpMethod.Post, $"/api/v1/links/{texts[placements[0]].Text("linkId")}/placed", new { placed = true });
        var page = (await client.DoAsync(HttpMethod.Get, $"/api/v1/share-texts?campaign={id}")).AsArray().Single();
        Assert.Equal(("Bulb Sale", 2, 1, "Come!"), (page.Text("title"), page.Whole("links"), page.Whole("placed"), page.Text("text")));
        await client.DoAsync(HttpMethod.Post, $"/api/v1/links/{texts[placements[0]].Text("linkId")}/placed", new { placed = false });
        Assert.Equal(0, (await client.DoAsync(HttpMethod.Get, $"/api/v1/share-texts?campaign={id}")).AsArray().Single().Whole("placed"));
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await client.CallAsync(HttpMethod.Post, $"/api/v1/links/{Guid.NewGuid()}/placed", new { placed = true })).Status
        );
    }
}

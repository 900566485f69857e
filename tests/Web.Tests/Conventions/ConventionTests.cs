using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Conventions;

public sealed class ConventionTests : IAsyncLifetime
{
    private BeaconHost _host = null!;
    private HttpClient _owner = null!;

    public async Task InitializeAsync()
    {
        _host = await BeaconHost.StartAsync(visits: 300);
        _owner = _host.As("owner");
    }

    public async Task DisposeAsync()
    {
        _owner.Dispose();
        await _host.DisposeAsync();
    }

    private async Task<JsonNode> PutAsync(JsonNode document, string? revision, HttpStatusCode expected = HttpStatusCode.OK)
    {
        using var answer = await _owner.PutAsJsonAsync("/api/v1/convention", new { document, revision });
        string text = await answer.Content.ReadAsStringAsync();
        Assert.True(answer.StatusCode == expected, text);
        return JsonNode.Parse(text)!;
    }

    /// <summary>The published document with one field more.</summary>
    private async Task<JsonNode> WithRegionAsync()
    {
        var document = (await _host.GetJsonAsync("/api/v1/convention"))["document"]!.DeepClone();
        document["fields"]!.AsArray().Add(JsonNode.Parse("""{"key":"region","label":"Region","presence":"required","list":"closed","words":[{"written":"north","label":"North","aliases":["nord"]}]}"""));
        return document;
    }

    [Fact]
    public async Task A_draft_changes_nothing_until_its_effect_was_seen_and_it_is_published()
    {
        var draft = await PutAsync(await WithRegionAsync(), null);
        Assert.True(draft["isDraft"]!.GetValue<bool>());
        Assert.Equal(1, (await _host.GetJsonAsync("/api/v1/convention"))["number"]!.GetValue<int>());

        using var counted = await _owner.PostAsync("/api/v1/convention/effect", null);
        var effect = JsonNode.Parse(await counted.Content.ReadAsStringAsync())!;
        long links = await _host.ScalarAsync<long>("select count(*) from links");
        Assert.Equal((links, links), (effect["links"]!.GetValue<long>(), effect["affected"]!.GetValue<long>()));
        Assert.Equal("missing-required", effect["rules"]![0]!["rule"]!.GetValue<string>());
        Assert.Equal(5, effect["rules"]![0]!["samples"]!.AsArray().Count);

        using var published = await _owner.PostAsync($"/api/v1/convention/publish?revision={draft["revision"]}", null);
        Assert.Equal(HttpStatusCode.OK, published.StatusCode);
        Assert.Equal(2, (await _host.GetJsonAsync("/api/v1/convention"))["number"]!.GetValue<int>());
        using var composed = await _owner.PostAsJsonAsync("/api/v1/links/compose", new { destination = $"http://{BeaconHost.GardenHost}/", campaign = "Lantern Nights", placement = "Gate poster", fields = new { region = "Nord" } });
        Assert.Contains("&region=north", await composed.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_later_of_two_owners_is_told_and_overwrites_nothing()
    {
        var draft = await PutAsync(await WithRegionAsync(), null);
        var changed = draft["document"]!.DeepClone();
        changed["fields"]![0]!["label"] = "Origin";
        var second = await PutAsync(changed, draft["revision"]!.GetValue<string>());
        var late = await PutAsync(draft["document"]!.DeepClone(), draft["revision"]!.GetValue<string>(), HttpStatusCode.Conflict);
        Assert.Equal("draft-overtaken", late["rule"]!.GetValue<string>());
        Assert.Equal("Origin", (await _host.GetJsonAsync("/api/v1/convention?version=draft"))["document"]!["fields"]![0]!["label"]!.GetValue<string>());
        using var stale = await _owner.PostAsync($"/api/v1/convention/publish?revision={draft["revision"]}", null);
        Assert.Equal(HttpStatusCode.Conflict, stale.StatusCode);
        using var fresh = await _owner.PostAsync($"/api/v1/convention/publish?revision={second["revision"]}", null);
        Assert.Equal(HttpStatusCode.OK, fresh.StatusCode);
    }

    [Fact]
    public async Task The_file_goes_out_and_comes_in_again_the_same()
    {
        using var ask = new HttpRequestMessage(HttpMethod.Get, "/api/v1/convention");
        ask.Headers.Accept.ParseAdd("application/yaml");
        using var given = await _owner.SendAsync(ask);
        string file = await given.Content.ReadAsStringAsync();
        Assert.StartsWith("fields:\n  - key: utm_source", file, StringComparison.Ordinal);

        using var put = await _owner.PutAsync("/api/v1/convention", new StringContent(file, Encoding.UTF8, "application/yaml"));
        Assert.Equal(HttpStatusCode.OK, put.StatusCode);
        using var askDraft = new HttpRequestMessage(HttpMethod.Get, "/api/v1/convention?version=draft");
        askDraft.Headers.Accept.ParseAdd("application/yaml");
        using var draft = await _owner.SendAsync(askDraft);
        Assert.Equal(file, await draft.Content.ReadAsStringAsync());

        using var broken = await _owner.PutAsync("/api/v1/convention", new StringContent("fields:\n  - kolour: 1", Encoding.UTF8, "application/yaml"));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, broken.StatusCode);
        Assert.Contains("Line 2", await broken.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_draft_can_be_thrown_away_and_a_wrong_one_is_not_saved()
    {
        var wrong = await WithRegionAsync();
        wrong["fields"]![0]!["key"] = "region";
        Assert.Contains("region", (await PutAsync(wrong, null, HttpStatusCode.UnprocessableEntity))["detail"]!.GetValue<string>(), StringComparison.Ordinal);
        using var none = await _owner.PostAsync("/api/v1/convention/effect", null);
        Assert.Equal(HttpStatusCode.Conflict, none.StatusCode);

        await PutAsync(await WithRegionAsync(), null);
        await _owner.PostAsync("/api/v1/convention/discard", null);
        Assert.Equal(HttpStatusCode.NotFound, (await _owner.GetAsync("/api/v1/convention?version=draft")).StatusCode);
    }

    [Fact]
    public async Task Anything_can_be_tried_under_a_convention_not_yet_saved()
    {
        var document = await WithRegionAsync();
        using var value = await _owner.PostAsJsonAsync("/api/v1/convention/try", new { document, field = "region", text = " NORD " });
        var tried = JsonNode.Parse(await value.Content.ReadAsStringAsync())!;
        Assert.Equal("north", tried["fields"]![0]!["value"]!.GetValue<string>());
        Assert.Equal(["spaces around taken away", "letter case", "another name for"], tried["fields"]![0]!["steps"]!.AsArray().Select(s => s!["name"]!.GetValue<string>()));

        using var url = await _owner.PostAsJsonAsync("/api/v1/convention/try", new { document, text = $"http://{BeaconHost.GardenHost}/?utm_source=trellis&utm_medium=e-mail" });
        var read = JsonNode.Parse(await url.Content.ReadAsStringAsync())!;
        Assert.Equal("Newsletter and mail", read["channel"]!.GetValue<string>());
        Assert.Contains(read["notices"]!.AsArray(), n => n!["rule"]!.GetValue<string>() == "missing-required");

        using var referrer = await _owner.PostAsJsonAsync("/api/v1/convention/try", new { document, text = $"http://{BeaconHost.GardenHost}/", referrer = "https://www.wendfar.example/" });
        Assert.Equal("Found by search", JsonNode.Parse(await referrer.Content.ReadAsStringAsync())!["channel"]!.GetValue<string>());
    }

    [Fact]
    public async Task Arrivals_are_sorted_into_channels_and_the_rows_add_up()
    {
        var report = await _host.GetJsonAsync("/api/v1/arrivals?from=2024-01-01&rows=channel");
        var rows = report["rows"]!.AsArray();
        Assert.Contains(rows, r => r!["keys"]![0]!.GetValue<string>() == "Found by search");
        Assert.Contains(rows, r => r!["keys"]![0]!.GetValue<string>() == "Newsletter and mail");
        Assert.Equal(report["total"]!["visits"]!.GetValue<long>(), rows.Sum(r => r!["figures"]!["visits"]!.GetValue<long>()));
    }
}

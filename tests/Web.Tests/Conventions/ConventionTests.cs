using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using PreciseBeacon.Core.Conventions;
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
        document["fields"]!
            .AsArray()
            .Add(
                JsonNode.Parse(
                    """{"key":"region","label":"Region","presence":"required","list":"closed","words":[{"written":"north","label":"North","aliases":["nord"]}]}"""
                )
            );
        return document;
    }

    [Fact]
    public async Task A_draft_changes_nothing_until_its_effect_was_seen_and_it_is_published()
    {
        var draft = await PutAsync(await WithRegionAsync(), null);
        Assert.True(draft["isDraft"]!.GetValue<bool>());
        Assert.Equal(1, (await _host.GetJsonAsync("/api/v1/convention"))["number"]!.GetValue<int>());

        using var counted = await _owner.PostAsync("/api/v1/convention/effect", null);
        string[] lines = (await counted.Content.ReadAsStringAsync()).Split('\n', StringSplitOptions.RemoveEmptyEntries);
        Assert.Equal(0, JsonNode.Parse(lines[0])!["done"]!.GetValue<int>());
        var effect = JsonNode.Parse(lines[^1])!["answer"]!;
        long links = await _host.ScalarAsync<long>("select count(*) from links");
        Assert.Equal((links, links), (effect["links"]!.GetValue<long>(), effect["affected"]!.GetValue<long>()));
        Assert.Equal("missing-required", effect["rules"]![0]!["rule"]!.GetValue<string>());
        Assert.Equal(5, effect["rules"]![0]!["samples"]!.AsArray().Count);

        using var published = await _owner.PostAsync($"/api/v1/convention/publish?revision={draft["revision"]}", null);
        Assert.Equal(HttpStatusCode.OK, published.StatusCode);
        Assert.Equal(2, (await _host.GetJsonAsync("/api/v1/convention"))["number"]!.GetValue<int>());
        using var composed = await _owner.PostAsJsonAsync(
            "/api/v1/links/compose",
            new
            {
                destination = $"http://{BeaconHost.GardenHost}/",
                campaign = "Lantern Nights",
                placement = "Gate poster",
                fields = new { region = "Nord" },
            }
        );
        Assert.Contains("&region=north", await composed.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    /// <summary>Visits did not keep a key nobody knew; their raw events did.</summary>
    [Fact]
    public async Task A_new_key_is_found_in_the_past()
    {
        const string Views = "select sum(page_views)::bigint from visit";
        long before = await _host.ScalarAsync<long>(Views);
        foreach (string query in new[] { "?Region=north&utm_source=nattervine", "?x=1#region=north", "?region2=north", "" })
        {
            using (await _host.MeasureAsync(new { k = "demo-garden", u = $"http://{BeaconHost.GardenHost}/visit{query}" })) { }
        }

        await Eventually.Async(async () => await _host.ScalarAsync<long>(Views) == before + 4);
        Assert.Equal(
            0,
            await _host.ScalarAsync<long>("select count(*) from traffic_source where tags ?| array['region', 'Region', 'region2']")
        );
        var draft = await PutAsync(await WithRegionAsync(), null);
        using var counted = await _owner.PostAsync("/api/v1/convention/effect", null);
        string[] lines = (await counted.Content.ReadAsStringAsync()).Split('\n', StringSplitOptions.RemoveEmptyEntries);
        Assert.Equal("""[{"key":"region","pageViews":2}]""", JsonNode.Parse(lines[^1])!["answer"]!["newKeys"]!.ToJsonString());
        var months = lines.Select(l => JsonNode.Parse(l)!).Where(l => l.Whole("months") > 0).ToList();
        Assert.Equal(Enumerable.Range(1, (int)months[0].Whole("months")), months.Select(m => (int)m.Whole("monthsDone")));

        using var published = await _owner.PostAsync($"/api/v1/convention/publish?revision={draft["revision"]}", null);
        Assert.Equal(HttpStatusCode.OK, published.StatusCode);
        await Eventually.Async(async () =>
            (await _host.GetJsonAsync("/api/v1/arrivals?rows=field.region"))["rows"]!
                .AsArray()
                .Any(r => r!["keys"]![0]?.GetValue<string>() == "north" && r["figures"]!.Whole("visits") == 2)
        );
        await Eventually.Async(async () => (await _host.GetJsonAsync("/api/v1/arrivals"))["freshness"]!.Whole("waiting") == 0);

        // A key that was known is not looked for again.
        await PutAsync((await _host.GetJsonAsync("/api/v1/convention"))["document"]!.DeepClone(), null);
        using var second = await _owner.PostAsync("/api/v1/convention/effect", null);
        Assert.Contains("\"newKeys\":[]", await second.Content.ReadAsStringAsync(), StringComparison.Ordinal);
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
        Assert.Equal(
            "Origin",
            (await _host.GetJsonAsync("/api/v1/convention?version=draft"))["document"]!["fields"]![0]!["label"]!.GetValue<string>()
        );
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

        using var broken = await _owner.PutAsync(
            "/api/v1/convention",
            new StringContent("fields:\n  - kolour: 1", Encoding.UTF8, "application/yaml")
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, broken.StatusCode);
        Assert.Contains("Line 2", await broken.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_draft_can_be_thrown_away_and_a_wrong_one_is_not_saved()
    {
        var wrong = await WithRegionAsync();
        wrong["fields"]![0]!["key"] = "region";
        Assert.Contains(
            "region",
            (await PutAsync(wrong, null, HttpStatusCode.UnprocessableEntity))["detail"]!.GetValue<string>(),
            StringComparison.Ordinal
        );
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
        using var value = await _owner.PostAsJsonAsync(
            "/api/v1/convention/try",
            new
            {
                document,
                field = "region",
                text = " NORD ",
            }
        );
        var tried = JsonNode.Parse(await value.Content.ReadAsStringAsync())!;
        Assert.Equal("north", tried["fields"]![0]!["value"]!.GetValue<string>());
        Assert.Equal(
            ["outer spaces removed", "letter case", "alias of"],
            tried["fields"]![0]!["steps"]!.AsArray().Select(s => s!["name"]!.GetValue<string>())
        );

        using var url = await _owner.PostAsJsonAsync(
            "/api/v1/convention/try",
            new { document, text = $"http://{BeaconHost.GardenHost}/?utm_source=trellis&utm_medium=e-mail" }
        );
        var read = JsonNode.Parse(await url.Content.ReadAsStringAsync())!;
        Assert.Equal("Newsletter and mail", read["channel"]!.GetValue<string>());
        Assert.Contains(read["notices"]!.AsArray(), n => n!["rule"]!.GetValue<string>() == "missing-required");

        using var referrer = await _owner.PostAsJsonAsync(
            "/api/v1/convention/try",
            new
            {
                document,
                text = $"http://{BeaconHost.GardenHost}/",
                referrer = "https://www.wendfar.example/",
            }
        );
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

    private async Task<JsonNode> ReadFileAsync(byte[] file, HttpStatusCode expected = HttpStatusCode.OK)
    {
        using var content = new ByteArrayContent(file);
        content.Headers.ContentType = new("application/octet-stream");
        using var answer = await _owner.PostAsync("/api/v1/convention/read-file", content);
        string text = await answer.Content.ReadAsStringAsync();
        Assert.True(answer.StatusCode == expected, text);
        return JsonNode.Parse(text)!;
    }

    [Fact]
    public async Task A_sheet_goes_out_and_comes_in_again_the_same_and_the_difference_is_seen_first()
    {
        byte[] sheet = await _owner.GetByteArrayAsync("/api/v1/convention/sheet.xlsx");
        Assert.Empty((await ReadFileAsync(sheet))["changes"]!.AsArray());

        string yaml = (await File.ReadAllTextAsync(Path.Combine(DatabaseCluster.Root, "samples/garden-convention.yaml"))).Replace(
            "label: Content",
            "label: '=1+1'",
            StringComparison.Ordinal
        );
        var read = await ReadFileAsync(Encoding.UTF8.GetBytes(yaml));
        Assert.Contains(read["changes"]!.AsArray(), c =>
            c!["what"]!.GetValue<string>() == "Field utm_brand" && c["kind"]!.GetValue<string>() == "added"
        );
        await PutAsync(read["document"]!.DeepClone(), null);
        byte[] draft = await _owner.GetByteArrayAsync("/api/v1/convention/sheet.xlsx?version=draft");
        Assert.Empty((await ReadFileAsync(draft))["changes"]!.AsArray());
        using var parts = new System.IO.Compression.ZipArchive(new MemoryStream(draft));
        foreach (var part in parts.Entries.Where(e => e.FullName.StartsWith("xl/worksheets/", StringComparison.Ordinal)))
        {
            using var text = new StreamReader(part.Open());
            Assert.DoesNotContain("<x:f>", await text.ReadToEndAsync(), StringComparison.Ordinal); // no cell is a formula
        }

        var difference = await _host.GetJsonAsync("/api/v1/convention/difference?before=1&after=draft");
        Assert.Equal(read["changes"]!.ToJsonString(), difference.ToJsonString());
        Assert.Equal(HttpStatusCode.NotFound, (await _owner.GetAsync("/api/v1/convention/difference?before=1&after=9")).StatusCode);
    }

    public static TheoryData<byte[], string> BrokenFiles =>
        new()
        {
            { [0x50, 0x4B, 3, 4, 1, 2, 3], "isn't an XLSX" },
            { [0xC3, 0x28], "UTF-8" },
            { Zip(("hello.txt", 10)), "isn't an XLSX" },
            { Zip(("xl/workbook.xml", 10), ("xl/bomb.xml", 70_000_000)), "64 MB" },
            { Zip(("xl/workbook.xml", 10)), "can't be read" },
            { "fields:\n  - key: a b\n    label: A"u8.ToArray(), "a b" },
        };

    private static byte[] Zip(params (string Name, int Size)[] entries)
    {
        using var file = new MemoryStream();
        using (var zip = new System.IO.Compression.ZipArchive(file, System.IO.Compression.ZipArchiveMode.Create))
        {
            foreach (var (name, size) in entries)
            {
                using var entry = zip.CreateEntry(name).Open();
                entry.Write(new byte[size]);
            }
        }

        return file.ToArray();
    }

    [Theory]
    [MemberData(nameof(BrokenFiles))]
    public async Task A_file_that_is_none_is_refused_with_the_reason(byte[] file, string says)
    {
        Assert.Contains(
            says,
            (await ReadFileAsync(file, HttpStatusCode.UnprocessableEntity))["detail"]!.GetValue<string>(),
            StringComparison.Ordinal
        );
        Assert.Equal(HttpStatusCode.NotFound, (await _owner.GetAsync("/api/v1/convention?version=draft")).StatusCode);
    }

    [Fact]
    public async Task A_file_of_more_than_eight_megabytes_is_refused_at_the_door() =>
        Assert.Equal(
            "file-too-large",
            (await ReadFileAsync(new byte[(8 << 20) + 1], HttpStatusCode.RequestEntityTooLarge))["rule"]!.GetValue<string>()
        );

    [Fact]
    public async Task A_name_pattern_shows_an_example_and_takes_names_apart()
    {
        var document = (await _host.GetJsonAsync("/api/v1/convention"))["document"]!.DeepClone();
        var campaign = document["fields"]!.AsArray().Single(f => f!["key"]!.GetValue<string>() == "utm_campaign")!;
        campaign["kind"] = "composed";
        campaign["pattern"] = JsonNode.Parse(
            """{"separator":"_","parts":[{"kind":"date","form":"month"},{"kind":"attribute","of":"region","filler":"all"},{"kind":"campaign"}]}"""
        );
        using var answer = await _owner.PostAsJsonAsync(
            "/api/v1/convention/try",
            new
            {
                document,
                field = "utm_campaign",
                text = "2026-10_north_lantern-nights",
            }
        );
        var tried = JsonNode.Parse(await answer.Content.ReadAsStringAsync())!;
        Assert.Matches("^20[0-9]{2}-[0-9]{2}_city_orchid-week$", tried["example"]!.GetValue<string>());
        Assert.Equal(
            ["the date=2026-10", "region=north", "the campaign=lantern-nights"],
            tried["apart"]!.AsArray().Select(p => $"{p!["part"]}={p["written"]}")
        );
        using var unfit = await _owner.PostAsJsonAsync(
            "/api/v1/convention/try",
            new
            {
                document,
                field = "utm_campaign",
                text = "lanterns",
            }
        );
        Assert.Empty(JsonNode.Parse(await unfit.Content.ReadAsStringAsync())!["apart"]!.AsArray());
    }

    [Fact]
    public async Task A_sealed_link_is_read_back_when_it_arrives_and_an_old_version_can_be_published_anew()
    {
        var document = (await _host.GetJsonAsync("/api/v1/convention"))["document"]!.DeepClone();
        document["style"] = "sealed";
        document["sealedKey"] = "k";
        var draft = await PutAsync(document, null);
        using var published = await _owner.PostAsync($"/api/v1/convention/publish?revision={draft["revision"]}", null);
        using var made = await _owner.PostAsJsonAsync(
            "/api/v1/links",
            new
            {
                destination = $"http://{BeaconHost.GardenHost}/visit",
                campaign = "Lantern Nights",
                placement = "Gate poster",
            }
        );
        var link = JsonNode.Parse(await made.Content.ReadAsStringAsync())!;
        string url = link["link"]!["url"]!.GetValue<string>();
        Assert.Matches("/visit\\?k=[a-z0-9]{14}$", url);

        using var inspected = await _owner.PostAsJsonAsync("/api/v1/links/inspect", new { url });
        var read = JsonNode.Parse(await inspected.Content.ReadAsStringAsync())!;
        Assert.Equal(url, read["mendedUrl"]!.GetValue<string>());
        Assert.Contains(read["fields"]!.AsArray(), f => f!["value"]!.GetValue<string>() == "gate_poster");

        using var kept = await _host.MeasureAsync(new { k = "demo-garden", u = url });
        Assert.True(kept.IsSuccessStatusCode, await kept.Content.ReadAsStringAsync());
        await Eventually.Async(async () => (await _host.GetJsonAsync($"/api/v1/links/{link["id"]}"))["visits"]!.GetValue<int>() == 1);
        Assert.Equal(
            "gate_poster",
            await _host.ScalarAsync<string>(
                $"select c.tags ->> 'utm_source' from visit v join traffic_source c on c.id = v.source_id where v.link_id = '{link["id"]}'"
            )
        );

        // Back to the first version: its document becomes a draft and is published as the third.
        var old = await _host.GetJsonAsync("/api/v1/convention?version=1");
        var again = await PutAsync(old["document"]!.DeepClone(), null);
        using var third = await _owner.PostAsync($"/api/v1/convention/publish?revision={again["revision"]}", null);
        Assert.Equal(3, (await _host.GetJsonAsync("/api/v1/convention"))["number"]!.GetValue<int>());
        Assert.Empty((await _host.GetJsonAsync("/api/v1/convention/difference?before=1&after=3")).AsArray());
    }

    [Fact]
    public async Task Pasted_words_are_looked_at_and_the_rules_are_listed()
    {
        var source = (await _host.GetJsonAsync("/api/v1/convention"))["document"]!["fields"]![0]!.DeepClone();
        using var answer = await _owner.PostAsJsonAsync(
            "/api/v1/convention/words/preview",
            new { field = source, pasted = "Skeinly\nFern Blog\nthe-trellis" }
        );
        Assert.Equal(
            ["already", "fresh", "sameLetters"],
            JsonNode.Parse(await answer.Content.ReadAsStringAsync())!.AsArray().Select(w => w!["verdict"]!.GetValue<string>())
        );
        var rules = await _host.GetJsonAsync("/api/v1/convention/rules");
        Assert.Contains(rules.AsArray(), r => r!["name"]!.GetValue<string>() == "broken-text" && r["protects"]!.GetValue<bool>());
    }

    [Fact]
    public async Task What_is_chosen_narrows_the_other_list()
    {
        using var answer = await _owner.PostAsJsonAsync(
            "/api/v1/links/compose",
            new
            {
                destination = $"http://{BeaconHost.GardenHost}/",
                fields = new
                {
                    source = "nattervine",
                    medium = "email",
                    campaign = "x",
                },
            }
        );
        var composed = JsonNode.Parse(await answer.Content.ReadAsStringAsync())!;
        Assert.Equal(
            ["social", "paid_social", "community"],
            composed["narrowed"]!.AsArray().Single(n => n!["key"]!.GetValue<string>() == "utm_medium")!["words"]!
                .AsArray()
                .Select(w => w!.GetValue<string>())
        );
        Assert.Contains(composed["notices"]!.AsArray(), n => n!["rule"]!.GetValue<string>() == "choice-unusual");
    }

    [Fact]
    public async Task Links_sealed_at_one_moment_share_their_code_and_none_is_lost()
    {
        var document = (await _host.GetJsonAsync("/api/v1/convention"))["document"]!.DeepClone();
        document["style"] = "sealed";
        document["sealedKey"] = "k";
        var draft = await PutAsync(document, null);
        using var published = await _owner.PostAsync($"/api/v1/convention/publish?revision={draft["revision"]}", null);
        var answers = await Task.WhenAll(
            Enumerable
                .Range(0, 12)
                .Select(async i =>
                {
                    using var made = await _owner.PostAsJsonAsync(
                        "/api/v1/links",
                        new
                        {
                            destination = $"http://{BeaconHost.GardenHost}/visit?list={i}",
                            campaign = "Lantern Nights",
                            placement = "Gate poster",
                        }
                    );
                    Assert.Equal(HttpStatusCode.Created, made.StatusCode);
                    return JsonNode.Parse(await made.Content.ReadAsStringAsync())!["link"]!["url"]!.GetValue<string>();
                })
        );
        Assert.Equal(12, answers.Distinct().Count());
        Assert.Single(answers.Select(u => u[(u.IndexOf("k=", StringComparison.Ordinal) + 2)..]).Distinct());
        Assert.Equal(1L, await _host.ScalarAsync<long>("select count(*) from sealed_links"));

        // The Ledger shows the values behind the code, and the code as a segment of its own.
        var row = (await _host.GetJsonAsync("/api/v1/links?search=list%3D3"))["links"]![0]!;
        Assert.Contains(row["values"]!.AsArray(), v => v!["value"]!.GetValue<string>() == "gate_poster");
        Assert.Contains(row["strip"]!.AsArray(), s => s!["key"]?.GetValue<string>() == "k");
    }

    [Fact]
    public async Task A_renamed_key_and_a_field_of_ones_own_reach_the_reports()
    {
        var document = await WithRegionAsync();
        document["fields"]![0]!["key"] = "src";
        document["fields"]![0]!["means"] = "source";
        document["fields"]![0]!["alsoRead"] = new JsonArray("utm_source");
        document["choices"] = new JsonArray();
        var draft = await PutAsync(document, null);
        using var published = await _owner.PostAsync($"/api/v1/convention/publish?revision={draft["revision"]}", null);
        using var composed = await _owner.PostAsJsonAsync(
            "/api/v1/links/compose",
            new
            {
                destination = $"http://{BeaconHost.GardenHost}/visit",
                campaign = "Lantern Nights",
                placement = "Gate poster",
                fields = new { region = "north" },
            }
        );
        Assert.Contains(
            "?src=gate_poster&utm_medium=qr",
            JsonNode.Parse(await composed.Content.ReadAsStringAsync())!["url"]!.GetValue<string>(),
            StringComparison.Ordinal
        );

        foreach (string key in new[] { "src", "utm_source" })
        {
            using var kept = await _host.MeasureAsync(
                new
                {
                    k = "demo-garden",
                    u = $"http://{BeaconHost.GardenHost}/visit?{key}=pippinwall&utm_medium=renamed&region=north",
                    d = $"visitor-{key}",
                }
            );
            Assert.True(kept.IsSuccessStatusCode);
        }

        // Raw stays raw, and is read by the keys of today.
        await Eventually.Async(async () =>
            await _host.ScalarAsync<long>(
                "select count(distinct tags) from traffic_source where tags ->> 'utm_medium' = 'renamed' and tags ->> 'region' = 'north'"
            ) == 2
        );
        await Eventually.Async(async () =>
        {
            var report = await _host.GetJsonAsync("/api/v1/arrivals?rows=source,field.region&where=medium:is:renamed");
            return report["rows"]!.AsArray() is [{ } only]
                && only["keys"]!.AsArray().Select(k => k!.GetValue<string>()).SequenceEqual(["pippinwall", "north"])
                && only["figures"]!.Whole("visits") == 2;
        });
    }

    [Fact]
    public async Task A_list_of_ten_thousand_words_is_saved_searched_and_carried_over()
    {
        var document = (await _host.GetJsonAsync("/api/v1/convention"))["document"]!.DeepClone();
        var words = document["fields"]![0]!["words"]!.AsArray();
        for (int i = 0; i < 10_000; i++)
        {
            words.Add(JsonNode.Parse($$"""{"written":"place_{{i:00000}}","label":"Place {{i}}","aliases":["p {{i}}"]}"""));
        }

        var draft = await PutAsync(document, null);
        using var published = await _owner.PostAsync($"/api/v1/convention/publish?revision={draft["revision"]}", null);
        using var composed = await _owner.PostAsJsonAsync(
            "/api/v1/links/compose",
            new
            {
                destination = $"http://{BeaconHost.GardenHost}/",
                fields = new
                {
                    source = "plaec 07777",
                    medium = "email",
                    campaign = "x",
                },
            }
        );
        Assert.Contains(
            "did you mean “place_07777”?",
            JsonNode.Parse(await composed.Content.ReadAsStringAsync())!["notices"]!.ToJsonString(
                new() { Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping }
            ),
            StringComparison.Ordinal
        );
        byte[] sheet = await _owner.GetByteArrayAsync("/api/v1/convention/sheet.xlsx");
        Assert.Empty((await ReadFileAsync(sheet))["changes"]!.AsArray());
    }
}

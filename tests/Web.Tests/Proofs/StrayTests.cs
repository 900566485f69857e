using System.Net;
using System.Text.Json.Nodes;
using PreciseBeacon.WebTests.Hosting;
using PreciseBeacon.WebTests.Traffic;

namespace PreciseBeacon.WebTests.Proofs;

/// <summary>Strays are found with evidence, assigned with what changes told before, and apart again once that is undone; raw stays raw.</summary>
public sealed class StrayTests : WorkingOutBase
{
    private static readonly string Day = DateTime
        .UtcNow.Date.AddDays(-5)
        .ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);

    private Task ArriveAsync(params string[] queries) =>
        KeepAsync([
            .. queries.Select(
                (query, i) =>
                    View($"{Day}T10:{i:00}", $"/bulbs?{query}", Guid.NewGuid()) with
                    {
                        Referrer = i == 0 ? "https://nattervine.example/feed" : "",
                    }
            ),
        ]);

    private async Task<JsonArray> GroupsAsync() => (await Host.GetJsonAsync("/api/v1/strays"))["groups"]!.AsArray();

    private async Task<string> SourcesAsync() =>
        string.Join(
            ", ",
            (await Host.GetJsonAsync($"/api/v1/arrivals?rows=source&from={Day}&to={Day}&measures=visits"))["rows"]!
                .AsArray()
                .Select(r => $"{r!["keys"]![0]} {r["figures"]!["visits"]}")
                .Order()
        );

    private static object Likely(JsonNode group) =>
        new
        {
            assignments = group["strays"]!
                .AsArray()
                .Select(s => new
                {
                    key = s!["key"],
                    field = s["key"] is null ? null : group["field"],
                    when = s["when"],
                    then = s["then"],
                }),
        };

    [Fact]
    public async Task A_stray_is_assigned_joins_its_row_and_is_apart_again_once_undone()
    {
        await ArriveAsync(
            "utm_source=nattervin&utm_medium=social",
            "utm_source=natervine&utm_medium=social",
            "utm_source=nattervine&utm_medium=social"
        );
        string before = await SourcesAsync();
        Assert.Equal("natervine 1, nattervin 1, nattervine 1", before);

        var group = Assert.Single(await GroupsAsync())!;
        Assert.Equal(("unknownValue", "nattervine", 2), (group.Text("kind"), group.Text("likely"), group.Whole("visits")));
        Assert.Equal(Day, group.Text("first"));
        Assert.Equal("nattervine.example", group["referrers"]![0].Text("where"));
        Assert.Equal($"{BeaconHost.GardenHost}/bulbs", group["pages"]![0].Text("where"));
        Assert.Equal(2, group["pages"]![0].Whole("visits"));

        using var editor = Host.As("editor");
        var effect = await editor.DoAsync(HttpMethod.Post, "/api/v1/strays/effect", Likely(group));
        Assert.Equal(
            ["source nattervine: 1 → 3", "source natervine: 1 → 0", "source nattervin: 1 → 0"],
            effect["rows"]!
                .AsArray()
                .Where(r => r!.Text("by") == "source")
                .Select(r => $"source {r!.Text("name")}: {r.Whole("before")} → {r.Whole("after")}")
        );
        Assert.Equal(before, await SourcesAsync()); // told, not done

        string raw = await Host.ScalarAsync<string>("select string_agg(tags::text, ' ' order by id) from traffic_source");
        string snapshot = await SnapshotAsync();
        var done = await editor.DoAsync(HttpMethod.Post, "/api/v1/strays/assignments", Likely(group));
        Assert.Equal("nattervine 3", await SourcesAsync());
        Assert.Empty(await GroupsAsync());
        Assert.Equal(raw, await Host.ScalarAsync<string>("select string_agg(tags::text, ' ' order by id) from traffic_source"));
        Assert.Equal(snapshot, await SnapshotAsync());
        var assigned = (await Host.GetJsonAsync("/api/v1/strays"))["assigned"]!.AsArray();
        Assert.Equal(["natervine", "nattervin"], assigned.Select(a => a!.Text("stray")).Order());
        Assert.All(assigned, a => Assert.Equal("nattervine", a!.Text("means")));

        await editor.DoAsync(HttpMethod.Post, "/api/v1/strays/assignments/undo", new { ids = done["ids"] });
        Assert.Equal(before, await SourcesAsync());
        Assert.Single(await GroupsAsync());
        Assert.Equal(4, await Host.ScalarAsync<long>("select count(*) from change_log where what in ('stray-assigned', 'stray-undone')"));
    }

    [Fact]
    public async Task Pairs_keys_and_swallowed_tags_are_assigned_whole()
    {
        await ArriveAsync(
            "utm_source=social&utm_medium=nattervine",
            "utm_soruce=nattervine&utm_medium=social",
            "utm_source=nattervine?utm_medium=social",
            "ref=group?utm_source=nattervine&utm_medium=social"
        );
        var groups = await GroupsAsync();
        Assert.Equal(["misspeltKey", "secondQuestionMark", "secondQuestionMark", "swapped"], groups.Select(g => g!.Text("kind")).Order());
        using var editor = Host.As("editor");
        foreach (var group in groups)
        {
            await editor.DoAsync(HttpMethod.Post, "/api/v1/strays/assignments", Likely(group!));
        }

        Assert.Equal("nattervine 4", await SourcesAsync());
        Assert.Contains((await Host.GetJsonAsync("/api/v1/strays"))["assigned"]!.AsArray(), a =>
            a!.Text("stray") == "social / nattervine" && a.Text("means") == "nattervine / social"
        );
        Assert.Empty(await GroupsAsync());
        Assert.Equal(
            "4",
            (await Host.GetJsonAsync($"/api/v1/arrivals?rows=medium&from={Day}&to={Day}&measures=visits&where=medium:is:social"))["total"]![
                "visits"
            ]!.ToString()
        );
    }

    [Theory]
    [InlineData(
        """{"assignments":[{"when":{"utm_source":"vine"},"then":{"utm_source":"no_such_word"}}]}""",
        "assignment-refused",
        "Source has no word"
    )]
    [InlineData("""{"assignments":[{"when":{"utm_source":"vine"},"then":{"utm_nothing":"x"}}]}""", "assignment-refused", "has no field")]
    [InlineData("""{"assignments":[{"when":{"utm_source":""},"then":{"utm_source":"nattervine"}}]}""", "assignment-refused", "missing")]
    [InlineData(
        """{"assignments":[{"when":{"utm_campaign":"x"},"then":{"utm_campaign":"no_such_campaign"}}]}""",
        "assignment-refused",
        "has no campaign"
    )]
    [InlineData("""{"assignments":[{"key":"utm_source","field":"utm_medium"}]}""", "assignment-refused", "read as Source already")]
    [InlineData("""{"assignments":[{"key":"utm_sauce","field":"nowhere"}]}""", "assignment-refused", "has no field")]
    [InlineData("""{"assignments":[{}]}""", "assignment-refused", "A stray is")]
    [InlineData("""{"assignments":[null]}""", "assignment-refused", "A stray is")]
    [InlineData("""{"assignments":[]}""", "assignments-missing", "Send 1 to")]
    [InlineData("""{}""", "assignments-missing", "Send 1 to")]
    public async Task What_cannot_be_assigned_is_refused_in_words(string body, string rule, string words)
    {
        using var editor = Host.As("editor");
        foreach (string call in new[] { "effect", "assignments" })
        {
            using var answer = await editor.PostAsync(
                new Uri($"/api/v1/strays/{call}", UriKind.Relative),
                new StringContent(body, null, "application/json")
            );
            Assert.True(answer.StatusCode is HttpStatusCode.BadRequest or HttpStatusCode.UnprocessableEntity);
            var problem = JsonNode.Parse(await answer.Content.ReadAsStringAsync())!;
            Assert.Equal(rule, problem.Text("rule"));
            Assert.Contains(words, problem.Text("detail"), StringComparison.Ordinal);
        }
    }

    [Fact]
    public async Task A_stray_becomes_an_alias_or_a_word_in_the_draft()
    {
        using var owner = Host.As("owner");
        await owner.DoAsync(
            HttpMethod.Post,
            "/api/v1/strays/words",
            new
            {
                field = "utm_source",
                values = new[] { "nattervin" },
                word = "nattervine",
            }
        );
        await owner.DoAsync(HttpMethod.Post, "/api/v1/strays/words", new { field = "utm_source", values = new[] { "Moss Post" } });
        var words = (await Host.GetJsonAsync("/api/v1/convention?version=draft"))["document"]!["fields"]!
            .AsArray()
            .Single(f => f!.Text("key") == "utm_source")!["words"]!.AsArray();
        Assert.Contains(
            "nattervin",
            words.Single(w => w!.Text("written") == "nattervine")!["aliases"]!.AsArray().Select(a => a!.ToString())
        );
        Assert.Equal("Moss Post", words.Single(w => w!.Text("written") == "moss_post")!.Text("label"));

        // Nothing changes before it is published.
        await ArriveAsync("utm_source=nattervin&utm_medium=social");
        Assert.Single(await GroupsAsync());
        var draft = await Host.GetJsonAsync("/api/v1/convention?version=draft");
        await owner.DoAsync(HttpMethod.Post, $"/api/v1/convention/publish?revision={draft.Text("revision")}");
        Assert.Equal("nattervine 1", await SourcesAsync());
        Assert.Empty(await GroupsAsync());

        using var refused = await owner.PostAsync(
            new Uri("/api/v1/strays/words", UriKind.Relative),
            new StringContent("""{"field":"utm_source","values":["x"],"word":"nowhere"}""", null, "application/json")
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
    }

    [Fact]
    public async Task Tags_inside_ones_own_site_are_found_with_the_page_they_stand_on()
    {
        var visitor = Guid.NewGuid();
        await KeepAsync(
            View($"{Day}T09:00", "/start?utm_source=nattervine&utm_medium=social", visitor),
            View($"{Day}T09:01", "/bulbs?utm_source=homepage&utm_medium=teaser", visitor) with
            {
                Referrer = $"http://{BeaconHost.GardenHost}/start?utm_source=nattervine",
            }
        );
        var inside = Assert.Single((await Host.GetJsonAsync("/api/v1/strays"))["inside"]!.AsArray())!;
        Assert.Equal($"{BeaconHost.GardenHost}/start", inside.Text("standsOn"));
        Assert.Equal($"{BeaconHost.GardenHost}/bulbs", inside.Text("leadsTo"));
        Assert.Equal("homepage", inside["tags"].Text("utm_source"));
        Assert.Equal(1, inside.Whole("times"));
        Assert.Equal("nattervine 1", await SourcesAsync());
    }
}

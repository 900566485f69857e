using System.Globalization;
using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Proofs;

/// <summary>Other systems' figures from files, beside planted clicks and visits of ours.</summary>
public sealed class FigureTests : PlantedGapBase
{
    private static readonly string Day = Begin.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    private async Task<JsonNode> TakeAsync(string file, string system = "Wendfar", bool dry = false, string? recipe = null)
    {
        using var client = Host.As("editor");
        using var form = new MultipartFormDataContent { { new ByteArrayContent(Encoding.UTF8.GetBytes(file)), "file", "figures.csv" } };
        if (recipe is not null)
        {
            form.Add(new StringContent(recipe), "recipe");
        }

        using var answer = await client.PostAsync($"/api/v1/imports/figures?system={system}&dry={(dry ? "true" : "false")}", form);
        string text = await answer.Content.ReadAsStringAsync();
        Assert.True(answer.IsSuccessStatusCode, text);
        return JsonNode.Parse(text)!;
    }

    private Task<JsonNode> ReadAsync() => Host.GetJsonAsync("/api/v1/figures");

    private static string Said(JsonNode figure) =>
        $"{figure.Text("kind")} {figure["theirs"]} beside {figure.Text("beside")} {figure["ours"]} {figure.Text("verdict")}: {string.Join(", ", figure["causes"]!.AsArray().Select(c => $"{c!.Text("kind")} {c!["missing"]}"))}";

    private async Task<Dictionary<Guid, string>> OfLinksAsync(string kind) =>
        (await ReadAsync())["figures"]!
            .AsArray()
            .Where(f => f!.Text("kind") == kind && f!["linkId"] is not null)
            .ToDictionary(f => Guid.Parse(f!.Text("linkId")), f => Said(f!)!);

    /// <summary>Gaps of 8, 15 and 40 % get quiet, ordinary and a finding, each with its planted cause first.</summary>
    [Fact]
    public async Task Planted_gaps_to_another_system_are_found_with_the_right_cause_first()
    {
        using var client = Host.As("editor");
        var (quiet, ordinary, lost, dead, programs, pasted, crawled) = await PlantAsync(client);
        Planted[] all = [quiet, ordinary, lost, dead, programs, pasted, crawled];
        var taken = await TakeAsync("Day,Link id,Clicks,Visits\n" + string.Concat(all.Select(l => $"{Day},{l.Id},\"1{"00"}\",100\n")));
        Assert.Equal((7, 7, 0), (taken.Whole("read"), taken.Whole("kept"), taken.Whole("unmatchedCount")));

        var visits = await OfLinksAsync("visits");
        Assert.Equal("visits 100 beside visits 92 quiet: blocked 8", visits[quiet.Id]);
        Assert.Equal("visits 100 beside visits 85 ordinary: blocked 15", visits[ordinary.Id]);
        Assert.Equal("visits 100 beside visits 60 finding: tagsLost 40", visits[lost.Id]);
        Assert.Equal("visits 100 beside visits 0 finding: notMeasured 100", visits[dead.Id]);
        Assert.Equal("visits 100 beside visits 60 finding: programs 40", visits[programs.Id]);
        Assert.Equal("visits 100 beside visits 60 finding: reused 40, blocked 40", visits[pasted.Id]);
        var clicks = await OfLinksAsync("clicks");
        Assert.Equal("clicks 100 beside clicks 100 quiet: ", clicks[quiet.Id]);
        Assert.Equal("clicks 100 beside clicks 60 finding: programs 40", clicks[crawled.Id]);

        // A trial of the page that nothing was measured on says that it does not answer.
        await client.DoAsync(HttpMethod.Post, "/api/v1/trials", new { linkId = dead.Id });
        Assert.Equal("visits 100 beside visits 0 finding: pageBroken 100", (await OfLinksAsync("visits"))[dead.Id]);

        // The list of findings has them, each with the key by which its place finds it.
        var keys = (await ReadAsync())["figures"]!.AsArray().Where(f => f!.Text("verdict") == "finding").Select(f => f!.Text("key"));
        await Host.ScalarAsync<int>("with w as (update workspaces set findings_next = now() returning 1) select count(*)::int from w");
        await Eventually.Async(async () =>
            (await Host.GetJsonAsync("/api/v1/findings"))["findings"]!
                .AsArray()
                .Where(f => f!.Text("area") == "figure")
                .Select(f => f!.Text("about"))
                .ToHashSet()
                .SetEquals(keys)
        );
    }

    [Fact]
    public async Task Links_without_clicks_are_compared_by_their_visits_and_a_page_check_says_why()
    {
        using var client = Host.As("editor");
        var (direct, dropped) = (await MakeAsync(client, "/direct"), await MakeAsync(client, "/dropped"));
        var raw = new RawEvents();
        foreach (var link in new[] { direct, dropped })
        {
            for (int i = 0; i < 60; i++)
            {
                raw.PageEvents.Add(View("2026-06-01T10:00", "", Guid.NewGuid()) with { At = Begin.AddMinutes(i), Url = link.Url });
            }
        }

        await WriteAsync(raw);
        await Host.ScalarAsync<int>("with d as (delete from short_links returning 1) select count(*)::int from d");
        await Host.ScalarAsync<int>(
            """
            with p as (
                insert into page_check (workspace_id, page, url, links, checked_at, hops)
                select workspace_id, page, url, 1, now(), '[]' from links where id = $1 returning workspace_id, page
            ), f as (
                insert into page_finding (workspace_id, page, rule, severity, message, hop, first_seen, last_seen)
                select workspace_id, page, 'tags-dropped', 2, 'The redirect to /autumn drops utm_source.', 1, now(), now() from p returning 1
            )
            select count(*)::int from f
            """,
            dropped.Id
        );
        await TakeAsync($"Day,Link id,Clicks\n{Day},{direct.Id},100\n{Day},{dropped.Id},100\n");
        var clicks = await OfLinksAsync("clicks");
        Assert.Equal("clicks 100 beside visits 60 finding: unexplained 40", clicks[direct.Id]);
        Assert.Equal("clicks 100 beside visits 60 finding: tagsLost 40", clicks[dropped.Id]);
    }

    [Fact]
    public async Task A_name_that_is_not_known_waits_is_put_right_by_hand_and_remembered()
    {
        using var client = Host.As("editor");
        var link = await MakeAsync(client, "/lantern");
        var raw = new RawEvents();
        for (int i = 0; i < 90; i++)
        {
            Click(raw, link, i, link.Url);
        }

        await WriteAsync(raw);
        string file = $"Day;Campaign;Clicks;Shown\n{Day};Lantern Nihgts;100;1.200\n{Day};Moon Gazing;70;900\n";
        var dry = await TakeAsync(file, dry: true);
        Assert.Null(dry["id"]);
        Assert.Equal((2, 2, 2100), (dry.Whole("kept"), dry.Whole("unmatchedCount"), dry["totals"]!.Whole("shown")));
        Assert.Equal(0, (await ReadAsync()).Whole("unmatchedCount"));

        await TakeAsync(file);
        var read = await ReadAsync();
        Assert.Equal((0, 2), (read.Whole("count"), read.Whole("unmatchedCount")));
        var name = read["unmatched"]!.AsArray().Single(u => u!.Text("text") == "Lantern Nihgts")!;
        Assert.Equal("Lantern Nights", name.Text("likely"));
        var meant = new
        {
            system = "Wendfar",
            part = "campaign",
            text = "Lantern Nihgts",
            id = name.Text("likelyId"),
        };
        await client.CallAsync(HttpMethod.Post, "/api/v1/figures/names", meant);
        await client.CallAsync(
            HttpMethod.Post,
            "/api/v1/figures/names",
            new
            {
                system = "Wendfar",
                part = "campaign",
                text = "Moon Gazing",
            }
        );
        read = await ReadAsync();
        Assert.Equal((1, 0, 2), (read.Whole("count"), read.Whole("unmatchedCount"), read["named"]!.AsArray().Count));
        Assert.Equal("clicks 100 beside clicks 90 quiet: unexplained 10", Said(read["figures"]![0]!));
        Assert.Equal("1200", read["figures"]![0]!["all"]!["shown"]!.ToString());

        // The same day again replaces what was imported, by the name that was put right; undone, the first counts again.
        var second = await TakeAsync($"Day,Campaign,Clicks\n{Day},Lantern Nihgts,150\n");
        Assert.Equal(0, second.Whole("unmatchedCount"));
        Assert.StartsWith("clicks 150 beside clicks 90 finding", Said((await ReadAsync())["figures"]![0]!), StringComparison.Ordinal);
        await client.CallAsync(HttpMethod.Post, $"/api/v1/imports/figures/{second.Text("id")}/undo", new { });
        Assert.StartsWith("clicks 100 beside clicks 90 quiet", Said((await ReadAsync())["figures"]![0]!), StringComparison.Ordinal);
        await client.CallAsync(HttpMethod.Post, $"/api/v1/imports/figures/{second.Text("id")}/redo", new { });

        // Another name of the campaign changes nothing, and what was put right can be undone.
        await Host.ScalarAsync<int>(
            "with c as (update campaigns set name = 'Nights of Lanterns' where name = 'Lantern Nights' returning 1) select count(*)::int from c"
        );
        Assert.Equal(1, (await ReadAsync()).Whole("count"));
        await client.CallAsync(HttpMethod.Post, "/api/v1/figures/names/forget", meant);
        Assert.Equal((0, 1), ((await ReadAsync()).Whole("count"), (await ReadAsync()).Whole("unmatchedCount")));
    }

    [Fact]
    public async Task What_was_found_when_a_file_was_read_stays_when_names_change()
    {
        using var client = Host.As("editor");
        await MakeAsync(client, "/lantern");
        await TakeAsync($"Day,Campaign,Placement,Clicks\n{Day},Lantern Nights,Gate poster,100\n");
        await Host.ScalarAsync<int>(
            "with c as (update campaigns set name = 'Nights of Lanterns' where name = 'Lantern Nights' returning 1), p as (update placements set name = 'Poster at the gate' where name = 'Gate poster' returning 1) select count(*)::int from c, p"
        );
        var read = await ReadAsync();
        Assert.Equal((1, 0), (read.Whole("count"), read.Whole("unmatchedCount")));
        Assert.Equal(["Nights of Lanterns", "Poster at the gate"], read["figures"]![0]!["called"]!.AsArray().Select(c => c!.ToString()));

        // A placement that is merged into another brings its figures along.
        var gone = await Host.ScalarAsync<Guid>("select id from placements where name = 'Poster at the gate'");
        var stays = await Host.ScalarAsync<Guid>("select id from placements where name <> 'Poster at the gate' order by name limit 1");
        await client.DoAsync(HttpMethod.Post, $"/api/v1/placements/{gone}/merge", new { into = stays });
        read = await ReadAsync();
        Assert.Equal((1, 0), (read.Whole("count"), read.Whole("unmatchedCount")));
        Assert.Equal(stays, Guid.Parse(read["figures"]![0]!.Text("placementId")));
    }

    [Theory]
    [InlineData("", "Day,Campaign,Clicks\n2026-11-03,Lantern Nights,1\n", null, "system-missing")]
    [InlineData("Wendfar", "Day,Campaign,Clicks\n2026-11-03,Lantern Nights,1\n", "{\"day\":\"Tag\"}", "recipe-refused")]
    [InlineData(
        "Wendfar",
        "Day,Campaign,Clicks\n2026-11-03,Lantern Nights,1\n",
        "{\"day\":\"Day\",\"values\":{\"none\":\"Day\"}}",
        "recipe-refused"
    )]
    [InlineData("Wendfar", "Day,Campaign,Clicks\n2026-11-03,Lantern Nights,1\n", "[1", "recipe-malformed")]
    public async Task What_cannot_be_taken_says_why(string system, string file, string? recipe, string code)
    {
        using var client = Host.As("editor");
        using var form = new MultipartFormDataContent { { new ByteArrayContent(Encoding.UTF8.GetBytes(file)), "file", "figures.csv" } };
        if (recipe is not null)
        {
            form.Add(new StringContent(recipe), "recipe");
        }

        using var answer = await client.PostAsync($"/api/v1/imports/figures?system={system}", form);
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains(code, await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(0, await Host.ScalarAsync<long>("select count(*) from figure_import"));
    }

    /// <summary>A hundred thousand rows say how far they are, and an import that is broken off leaves nothing.</summary>
    [Fact]
    public async Task A_large_file_tells_how_far_it_is()
    {
        var file = new StringBuilder("Day,utm_campaign,utm_content,Clicks,Shown\n");
        for (int i = 0; i < 100_000; i++)
        {
            file.Append(
                CultureInfo.InvariantCulture,
                $"{Begin.AddDays(-(i % 20)):yyyy-MM-dd},lantern_nights,piece-{i / 20},{i % 97},{i}\n"
            );
        }

        var taking = TakeAsync(file.ToString());
        int seen = 0;
        while (!taking.IsCompleted)
        {
            var running = (await Host.GetJsonAsync("/api/v1/imports/figures")).AsArray();
            if (running is [{ } row] && row["finishedAt"] is null && row.Whole("done") > 0)
            {
                seen++;
            }

            await Task.WhenAny(taking, Task.Delay(20));
        }

        var taken = await taking;
        Assert.Equal((100_000, 100_000), (taken.Whole("read"), taken.Whole("kept")));
        Assert.True(seen > 0, "Nothing was told on the way.");
        Assert.Equal(100_000, await Host.ScalarAsync<long>("select count(*) from imported_figure"));
        var read = await ReadAsync();
        Assert.Equal((5_000, 200), (read.Whole("count"), read["figures"]!.AsArray().Count));
    }
}

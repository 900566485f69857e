using System.Globalization;
using System.Net;
using System.Text.Json.Nodes;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Plan;

[Collection(nameof(DemoHost))]
public sealed class CampaignTests(DemoHost demo)
{
    private const string Page = $"http://{BeaconHost.GardenHost}/orchid-week";

    private static string NewName() => $"Fern Fair {Guid.NewGuid():N}"[..20];

    [Fact]
    public async Task A_campaign_is_made_with_a_value_the_convention_writes_and_changed_under_its_revision()
    {
        using var client = demo.Host.As("editor");
        string name = NewName();
        var made = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/campaigns",
            new
            {
                name,
                startsOn = "2027-03-09",
                endsOn = "2027-04-11",
                owner = "Tomas Birch",
                budget = 1200.50m,
                goal = "Fill the fern house.",
                attributes = new { department = "Events" },
            }
        );
        Assert.Equal($"2027-03_{name.ToLowerInvariant().Replace(' ', '_')}", made.Text("value")); // as the demo's other campaigns are written
        Assert.Equal("ahead", made.Text("state"));
        Assert.Equal(1200.50m, made["budget"]!.GetValue<decimal>());

        string path = $"/api/v1/campaigns/{made.Text("id")}";
        var changed = await client.DoAsync(
            HttpMethod.Put,
            path,
            new
            {
                name,
                value = "Fern Fair!",
                revision = 1,
            }
        );
        Assert.Equal("fern_fair!", changed.Text("value"));
        Assert.Equal("alwaysOn", changed.Text("state"));

        var (status, problem) = await client.CallAsync(HttpMethod.Put, path, new { name = name + " too", revision = 1 });
        Assert.Equal(HttpStatusCode.Conflict, status);
        Assert.Equal("changed-meanwhile", problem.Refusal().Rule);
        Assert.Contains("demo-editor", problem.Refusal().Says, StringComparison.Ordinal);
        Assert.Equal("fern_fair!", problem!["theirs"].Text("value"));
    }

    /// <summary>By hand: on the fifth of twenty days 5 of 20 are due, and three clicks at 0.07 have cost 0.21; by the end 20 and four times as much.</summary>
    [Fact]
    public async Task A_budget_stands_beside_what_was_spent_and_will_be()
    {
        using var client = demo.Host.As("editor");
        string name = NewName();
        var placement = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/placements",
            new
            {
                name = $"{name} board",
                channel = "Communities",
                defaults = new { utm_source = "pippinwall", utm_medium = "community" },
                costPerClick = 0.07m,
                fixedCost = 20m,
            }
        );
        var today = DateOnly.Parse(
            (await demo.Host.GetJsonAsync("/api/v1/arrivals?rows=&measures=visits")).Text("to"),
            CultureInfo.InvariantCulture
        );
        var campaign = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/campaigns",
            new
            {
                name,
                startsOn = today.AddDays(-4),
                endsOn = today.AddDays(15),
                budget = 20.5m,
            }
        );
        var link = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/links",
            new
            {
                destination = Page,
                campaign = campaign.Text("id"),
                placement = placement.Text("id"),
            }
        );
        for (int i = 0; i < 3; i++)
        {
            using var click = await demo.Host.ClickAsync(
                new Uri(link.Text("shortUrl")).AbsolutePath,
                $"Mozilla/5.0 (Phone; Mobile) Fernleaf/{i}"
            );
            Assert.Equal(HttpStatusCode.Found, click.StatusCode);
        }

        JsonNode budget = new JsonObject();
        await Eventually.Async(async () =>
        {
            var detail = await demo.Host.GetJsonAsync($"/api/v1/campaigns/{campaign.Text("id")}");
            budget = detail["budget"]!;
            return detail["total"].Whole("clicks") == 3;
        });
        Assert.Equal(
            ("5.21", "20.84", true),
            (budget["spent"]!.Text("amount"), budget["foreseen"]!.Text("amount"), budget["isOver"]!.GetValue<bool>())
        );
        Assert.Equal(5.21m / 20.5m, budget["share"]!.GetValue<decimal>(), 10);
        var listed = (await demo.Host.GetJsonAsync("/api/v1/campaigns/budgets"))
            .AsArray()
            .Single(b => b.Text("campaign") == campaign.Text("id"));
        Assert.True(JsonNode.DeepEquals(budget, listed!["budget"]));
        var none = await client.DoAsync(HttpMethod.Post, "/api/v1/campaigns", new { name = NewName() });
        Assert.Null((await demo.Host.GetJsonAsync($"/api/v1/campaigns/{none.Text("id")}"))["budget"]);
    }

    [Theory]
    [InlineData("{\"name\":\" \"}", 400)]
    [InlineData("{\"name\":\"!!!\",\"value\":\"\\u0000\"}", 422)]
    [InlineData("{\"name\":\"Turned\",\"startsOn\":\"2027-02-02\",\"endsOn\":\"2027-02-01\"}", 400)]
    [InlineData("{\"name\":\"Debt\",\"budget\":-1}", 400)]
    [InlineData("{\"name\":\"Strange\",\"attributes\":{\"colour\":\"green\"}}", 400)]
    [InlineData("{\"name\":\"No day\",\"startsOn\":\"2027-02-30\"}", 400)]
    [InlineData("{\"name\":\"Lantern Nights\"}", 409)]
    [InlineData("{\"name\":\"With a person\",\"value\":\"wren@marrowmere.example\"}", 422)]
    public async Task A_campaign_that_cannot_be_is_refused(string body, int status)
    {
        using var client = demo.Host.As("editor");
        using var answer = await client.PostAsync(
            "/api/v1/campaigns",
            new StringContent(body, System.Text.Encoding.UTF8, "application/json")
        );
        Assert.Equal(status, (int)answer.StatusCode);
        Assert.Equal("application/problem+json", answer.Content.Headers.ContentType?.MediaType);
    }

    [Fact]
    public async Task What_has_links_is_archived_and_never_deleted()
    {
        using var client = demo.Host.As("editor");
        var campaigns = (await client.DoAsync(HttpMethod.Get, "/api/v1/campaigns")).AsArray();
        string used = campaigns.Single(c => c.Text("name") == "Seed Swap").Text("id");
        var (status, problem) = await client.CallAsync(HttpMethod.Delete, $"/api/v1/campaigns/{used}");
        Assert.Equal((HttpStatusCode.Conflict, "campaign-has-links"), (status, problem.Refusal().Rule));

        string id = (await client.DoAsync(HttpMethod.Post, "/api/v1/campaigns", new { name = NewName() })).Text("id");
        await client.DoAsync(HttpMethod.Post, $"/api/v1/campaigns/{id}/archive");
        Assert.DoesNotContain((await client.DoAsync(HttpMethod.Get, "/api/v1/campaigns")).AsArray(), c => c.Text("id") == id);
        Assert.Contains((await client.DoAsync(HttpMethod.Get, "/api/v1/campaigns?archived=true")).AsArray(), c => c.Text("id") == id);
        await client.DoAsync(HttpMethod.Post, $"/api/v1/campaigns/{id}/restore");
        await client.DoAsync(HttpMethod.Delete, $"/api/v1/campaigns/{id}");
        Assert.Equal(HttpStatusCode.NotFound, (await client.CallAsync(HttpMethod.Get, $"/api/v1/campaigns/{id}")).Status);
    }

    [Fact]
    public async Task Archived_links_are_left_out_of_plans_numbers_as_of_the_ledger()
    {
        using var client = demo.Host.As("editor");
        var campaign = await client.DoAsync(HttpMethod.Post, "/api/v1/campaigns", new { name = NewName() });
        string path = $"/api/v1/campaigns/{campaign.Text("id")}";
        async Task<(int Plan, int One, int Ledger, int Placement)> CountsAsync() =>
            (
                (await client.DoAsync(HttpMethod.Get, "/api/v1/campaigns"))
                    .AsArray()
                    .Single(c => c.Text("id") == campaign.Text("id"))
                    .Whole("links"),
                (await client.DoAsync(HttpMethod.Get, path))["campaign"]!.Whole("links"),
                (await client.DoAsync(HttpMethod.Get, $"/api/v1/links?campaign={campaign.Text("id")}")).Whole("total"),
                (await client.DoAsync(HttpMethod.Get, "/api/v1/placements"))
                    .AsArray()
                    .Single(p => p.Text("name") == "Skeinly night watchers")
                    .Whole("links")
            );

        var before = await CountsAsync();
        var made = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/links",
            new
            {
                destination = $"http://{BeaconHost.GardenHost}/visit",
                campaign = campaign.Text("id"),
                placement = "Skeinly night watchers",
            }
        );
        Assert.Equal((1, 1, 1, before.Placement + 1), await CountsAsync());
        await client.DoAsync(HttpMethod.Post, "/api/v1/links/bulk", new { links = new[] { made.Text("id") }, retire = true });
        Assert.Equal(before, await CountsAsync());
    }

    [Fact]
    public async Task The_next_season_is_planned_anew_and_nothing_of_the_last_one_changes()
    {
        using var client = demo.Host.As("editor");
        var old = (await client.DoAsync(HttpMethod.Get, "/api/v1/campaigns")).AsArray().Single(c => c.Text("name") == "Lantern Nights");
        string before = (await client.DoAsync(HttpMethod.Get, $"/api/v1/campaigns/{old.Text("id")}")).ToJsonString();
        var starts = DateOnly.Parse(old.Text("startsOn"), System.Globalization.CultureInfo.InvariantCulture);
        var next = await client.DoAsync(HttpMethod.Post, $"/api/v1/campaigns/{old.Text("id")}/next-season", new { name = NewName() });
        Assert.Equal(starts.AddYears(1).ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture), next.Text("startsOn"));
        Assert.StartsWith($"{starts.AddYears(1):yyyy-MM}_lantern_nights", next.Text("value"), StringComparison.Ordinal);
        Assert.Equal(0, next.Whole("links"));
        int placements = JsonNode.Parse(before)!["results"]!.AsArray().Count;
        Assert.True(next.Whole("planned") >= placements, $"{next.Whole("planned")} planned for {placements} placements");
        Assert.Equal(next.Whole("planned"), next.Whole("missing"));
        Assert.Equal(before, (await client.DoAsync(HttpMethod.Get, $"/api/v1/campaigns/{old.Text("id")}")).ToJsonString());
    }

    [Fact]
    public async Task Planned_links_are_written_read_from_a_sheet_made_once_and_given_out_again()
    {
        using var client = demo.Host.As("editor");
        var campaign = await client.DoAsync(HttpMethod.Post, "/api/v1/campaigns", new { name = NewName(), startsOn = "2027-01-04" });
        string path = $"/api/v1/campaigns/{campaign.Text("id")}";

        const string Csv =
            "Page;Placement;Content;Due;Colour\r\n"
            + Page
            + ";Gate poster;;2027-01-01;red\r\n"
            + Page
            + ";the trellis – header button;\"=cmd|x\";2027-02-30;\r\n;Members’ mail;;;\r\n\r\n"
            + Page
            + ";Nobody's wall;;;\r\n";
        using var sheet = await client.PostAsync(
            $"{path}/planned/read-sheet",
            new StringContent(Csv, System.Text.Encoding.UTF8, "text/csv")
        );
        var read = JsonNode.Parse(await sheet.Content.ReadAsStringAsync())!;
        var rows = read["rows"]!.AsArray();
        Assert.Equal(4, rows.Count);
        Assert.Equal(["Colour"], read["unknown"]!.AsArray().Select(u => u!.GetValue<string>()));
        Assert.Equal(
            [
                null,
                "“2027-02-30” isn't a date; write it like 2026-03-01.",
                null,
                "There is no placement “Nobody's wall”; the row was read without it.",
            ],
            rows.Select(r => r!["problem"]?.GetValue<string>())
        );

        var detail = await client.DoAsync(
            HttpMethod.Put,
            $"{path}/planned",
            new { rows = rows.Select(r => r!["row"]!.DeepClone()), revision = 1 }
        );
        Assert.Equal(["ready", "ready", "incomplete", "incomplete"], detail["planned"]!.AsArray().Select(p => p.Text("state")));
        Assert.Equal("The page is missing.", detail["planned"]![2].Text("says"));

        // Two people make the same plan at one moment: every link is made once.
        var made = await Task.WhenAll(Enumerable.Range(0, 2).Select(_ => client.DoAsync(HttpMethod.Post, $"{path}/planned/make", new { })));
        Assert.Equal(2, made.Sum(m => m.Whole("made")));
        var after = await client.DoAsync(HttpMethod.Get, path);
        Assert.Equal(2, after["campaign"].Whole("links"));
        Assert.Equal(["made", "made", "incomplete", "incomplete"], after["planned"]!.AsArray().Select(p => p.Text("state")));
        Assert.StartsWith($"http://{demo.Host.ShortHost}/", after["planned"]![0].Text("shortUrl"), StringComparison.Ordinal);

        string csv = System.Text.Encoding.UTF8.GetString(await client.GetByteArrayAsync($"{path}/planned.csv"));
        Assert.StartsWith("\uFEFFPage,Placement,Content,Owner,Due,Note,State,Link,Short link\r\n", csv, StringComparison.Ordinal);
        Assert.Contains(",'=cmd|x,", csv, StringComparison.Ordinal); // no formula is ever exported that nobody meant
        using var again = await client.PostAsync(
            $"{path}/planned/read-sheet",
            new StringContent(csv, System.Text.Encoding.UTF8, "text/csv")
        );
        Assert.Contains("\"content\":\"=cmd|x\"", await again.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        byte[] xlsx = await client.GetByteArrayAsync($"{path}/planned.xlsx");
        using var back = await client.PostAsync($"{path}/planned/read-sheet", new ByteArrayContent(xlsx));
        var workbook = JsonNode.Parse(await back.Content.ReadAsStringAsync())!["rows"]!.AsArray();
        Assert.Equal("=cmd|x", workbook[1]!["row"].Text("content"));
        Assert.Equal("2027-01-01", workbook[0]!["row"].Text("dueOn"));

        var (status, problem) = await client.CallAsync(
            HttpMethod.Put,
            $"{path}/planned",
            new { rows = Array.Empty<object>(), revision = 1 }
        );
        Assert.Equal((HttpStatusCode.Conflict, "changed-meanwhile"), (status, problem.Refusal().Rule));
    }

    [Fact]
    public async Task A_planned_link_that_exists_already_is_used_unless_another_is_wanted()
    {
        using var client = demo.Host.As("editor");
        var campaign = await client.DoAsync(HttpMethod.Post, "/api/v1/campaigns", new { name = NewName() });
        string path = $"/api/v1/campaigns/{campaign.Text("id")}";
        string gate = (await client.DoAsync(HttpMethod.Get, "/api/v1/placements"))
            .AsArray()
            .Single(p => p.Text("name") == "Gate poster")
            .Text("id");
        var there = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/links",
            new
            {
                destination = Page,
                campaign = campaign.Text("id"),
                placement = "Gate poster",
            }
        );
        object[] Rows(params string?[] contents) =>
            [
                .. contents.Select(content => new
                {
                    page = Page,
                    placementId = gate,
                    content,
                }),
            ];
        var detail = await client.DoAsync(HttpMethod.Put, $"{path}/planned", new { rows = Rows(null, "another one"), revision = 1 });
        Assert.Equal([true, false], detail["planned"]!.AsArray().Select(p => p!["exists"]!.GetValue<bool>()));

        var made = await client.DoAsync(HttpMethod.Post, $"{path}/planned/make", new { });
        Assert.Equal((1, 1), (made.Whole("made"), made.Whole("used")));
        Assert.Equal(there.Text("id"), made["campaign"]!["planned"]![0].Text("linkId"));
        detail = await client.DoAsync(
            HttpMethod.Put,
            $"{path}/planned",
            new { rows = Rows([null]), revision = made["campaign"]!["campaign"].Whole("revision") }
        );
        made = await client.DoAsync(HttpMethod.Post, $"{path}/planned/make", new { again = true });
        Assert.Equal((1, 0), (made.Whole("made"), made.Whole("used")));
        Assert.NotEqual(there.Text("id"), made["campaign"]!["planned"]![2].Text("linkId"));
    }

    [Theory]
    [InlineData("PK\u0003\u0004nonsense")]
    [InlineData("")]
    [InlineData("a,b\r\n1,2\r\n")]
    [InlineData("Page\0\0")]
    public async Task A_file_that_is_no_such_sheet_is_refused(string content)
    {
        using var client = demo.Host.As("editor");
        string id = (await client.DoAsync(HttpMethod.Get, "/api/v1/campaigns")).AsArray()[0].Text("id");
        using var answer = await client.PostAsync($"/api/v1/campaigns/{id}/planned/read-sheet", new StringContent(content));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
        Assert.EndsWith(".", JsonNode.Parse(await answer.Content.ReadAsStringAsync()).Refusal().Says, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_campaigns_results_are_those_of_its_links()
    {
        using var client = demo.Host.As("editor");
        var campaign = await client.DoAsync(HttpMethod.Post, "/api/v1/campaigns", new { name = NewName() });
        var link = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/links",
            new
            {
                destination = Page,
                campaign = campaign.Text("id"),
                placement = "Skeinly paid posts",
            }
        );
        await Eventually.Async(async () =>
        {
            using var click = await demo.Host.ClickAsync(new Uri(link.Text("shortUrl")).AbsolutePath);
            return click.StatusCode == HttpStatusCode.Found; // until then the slug is not known here, and nothing is counted
        });

        await Eventually.Async(async () =>
        {
            var detail = await client.DoAsync(HttpMethod.Get, $"/api/v1/campaigns/{campaign.Text("id")}");
            var result = detail["results"]!.AsArray().Single();
            return result.Whole("clicks") == 1 && result!["cost"].Text("amount") == "0.62" && detail["total"].Whole("clicks") == 1;
        });
    }

    [Fact]
    public async Task Attributes_are_the_workspaces_own()
    {
        using var client = demo.Host.As("owner");
        var before = await client.DoAsync(HttpMethod.Get, "/api/v1/campaign-attributes");
        var (status, _) = await client.CallAsync(
            HttpMethod.Put,
            "/api/v1/campaign-attributes",
            new[] { new { name = "a", values = Array.Empty<string>() }, new { name = "A", values = Array.Empty<string>() } }
        );
        Assert.Equal(HttpStatusCode.BadRequest, status);
        var with = before
            .AsArray()
            .Select(a => a!.DeepClone())
            .Append(JsonNode.Parse("{\"name\":\"product line\",\"values\":[\"bulbs\",\" \",\"bulbs\"]}"));
        var after = await client.DoAsync(HttpMethod.Put, "/api/v1/campaign-attributes", with);
        Assert.Equal("[\"bulbs\"]", after.AsArray()[^1]!["values"]!.ToJsonString());
        await client.DoAsync(HttpMethod.Put, "/api/v1/campaign-attributes", before);
    }
}

using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Batches;

/// <summary>Two people at one sheet.</summary>
[Collection(nameof(DemoHost))]
public sealed class BatchConflictTests(DemoHost demo)
{
    [Fact]
    public async Task Of_changes_in_the_same_moment_one_holds_and_the_others_are_told()
    {
        using var client = demo.Host.As("editor");
        using var form = new MultipartFormDataContent
        {
            {
                new ByteArrayContent(
                    Encoding.UTF8.GetBytes($"Page,Content\r\nhttp://{BeaconHost.GardenHost}/visit?{Guid.NewGuid():N},a\r\n")
                ),
                "file",
                "two.csv"
            },
        };
        using var made = await client.PostAsync("/api/v1/batches", form);
        string path = $"/api/v1/batches/{JsonNode.Parse(await made.Content.ReadAsStringAsync()).Text("id")}";
        var recipe = (await client.DoAsync(HttpMethod.Get, path))["recipe"]!;
        var answers = await Task.WhenAll(
            Enumerable
                .Range(0, 6)
                .Select(i =>
                {
                    var changed = recipe.DeepClone();
                    changed["placement"] = $"Placement {i}";
                    return client.CallAsync(HttpMethod.Put, $"{path}/recipe", new { recipe = changed, revision = 1 });
                })
        );
        Assert.Single(answers, a => a.Status == HttpStatusCode.OK);
        Assert.All(answers.Where(a => a.Status != HttpStatusCode.OK), a =>
            Assert.Equal((HttpStatusCode.Conflict, "changed-meanwhile"), (a.Status, a.Json.Refusal().Rule))
        );

        // Begun twice in the same moment, a batch runs once.
        await client.DoAsync(
            HttpMethod.Put,
            $"{path}/overrides",
            new
            {
                rows = new[]
                {
                    new
                    {
                        number = 1,
                        values = new Dictionary<string, string?> { ["placement"] = "Members’ mail", ["campaign"] = "School Visits" },
                    },
                },
            }
        );
        var runs = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => client.CallAsync(HttpMethod.Post, $"{path}/run")));
        Assert.Contains(runs, r => r.Status == HttpStatusCode.Accepted);
        await Eventually.Async(async () => (await client.DoAsync(HttpMethod.Get, path)).Text("state") == "finished");
        Assert.Equal(
            1L,
            await demo.Host.ScalarAsync<long>(
                "select count(distinct link_id) from batch_row where batch_id = $1",
                Guid.Parse(path.Split('/')[^1])
            )
        );
        Assert.Equal(1, (await client.DoAsync(HttpMethod.Get, path))["runs"]!.AsArray().Sum(r => r.Whole("made")));
    }

    [Fact]
    public async Task While_a_sheet_runs_nothing_is_typed_into_it()
    {
        using var client = demo.Host.As("editor");
        var sheet = new StringBuilder("Page,Content\r\n");
        string mark = Guid.NewGuid().ToString("N")[..8];
        for (int i = 0; i < 4_000; i++)
        {
            sheet.Append(System.Globalization.CultureInfo.InvariantCulture, $"http://{BeaconHost.GardenHost}/shop?{mark},row_{i}\r\n");
        }

        const string Recipe =
            """{"destination":{"column":"Page"},"placement":"Members’ mail","campaign":"School Visits","fields":{"content":{"column":"Content"}}}""";
        using var form = new MultipartFormDataContent
        {
            { new ByteArrayContent(Encoding.UTF8.GetBytes(sheet.ToString())), "file", "run.csv" },
            { new StringContent(Recipe), "recipe" },
        };
        using var made = await client.PostAsync("/api/v1/batches", form);
        string path = $"/api/v1/batches/{JsonNode.Parse(await made.Content.ReadAsStringAsync()).Text("id")}";
        var (status, refusal) = await client.CallAsync(
            HttpMethod.Put,
            $"{path}/overrides",
            new { rows = new[] { new { number = 4_000, values = new Dictionary<string, string?> { ["content"] = "late" } } } }
        );
        Assert.Equal((HttpStatusCode.Conflict, "batch-runs"), (status, refusal.Refusal().Rule));
        await Eventually.Async(async () => (await client.DoAsync(HttpMethod.Get, path)).Text("state") == "finished");
        Assert.Equal(
            0L,
            await demo.Host.ScalarAsync<long>("select count(*) from links where destination like $1 and url like '%late%'", $"%{mark}%")
        );
    }
}

using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Plan;

/// <summary>Many placements from names, a table or a list: shown first, made together, and never twice.</summary>
[Collection(nameof(DemoHost))]
public sealed class PlacementImportTests(DemoHost demo)
{
    private const string Path = "/api/v1/placements/import";

    private static async Task<(HttpStatusCode Status, JsonNode Json)> BringAsync(HttpClient client, string text, string query)
    {
        using var answer = await client.PostAsync($"{Path}?{query}", new StringContent(text, Encoding.UTF8, "text/plain"));
        return (answer.StatusCode, JsonNode.Parse(await answer.Content.ReadAsStringAsync())!);
    }

    private static string[] States(JsonNode answer) => [.. answer["rows"]!.AsArray().Select(r => r.Text("state"))];

    [Fact]
    public async Task Thirty_names_become_placements_of_a_set_each_with_values_of_its_own()
    {
        using var client = demo.Host.As("editor");
        string mark = $"g{Guid.NewGuid():N}"[..8];
        string names = string.Join('\n', Enumerable.Range(1, 30).Select(i => $"{mark} Group {i}, and friends"));
        string query = $"channel=Communities&publisher=Nattervine&set={mark}";
        var (_, looked) = await BringAsync(client, names, query + "&dry=true");
        Assert.Equal((30, false), (looked.Whole("new"), looked["made"]!.GetValue<bool>()));
        Assert.DoesNotContain((await client.DoAsync(HttpMethod.Get, "/api/v1/placements")).AsArray(), p =>
            p.Text("name").StartsWith(mark, StringComparison.Ordinal)
        );
        var (_, made) = await BringAsync(client, names, query);
        Assert.True(made["made"]!.GetValue<bool>());
        var placements = (await client.DoAsync(HttpMethod.Get, "/api/v1/placements"))
            .AsArray()
            .Where(p => p.Text("name").StartsWith(mark, StringComparison.Ordinal))
            .ToList();
        Assert.Equal(30, placements.Count);
        Assert.All(placements, p =>
            Assert.Equal(
                ("Communities", "nattervine", "community"),
                (p.Text("channel"), p!["defaults"]!.Text("utm_source"), p["defaults"]!.Text("utm_medium"))
            )
        );
        Assert.Equal(30, placements.Select(p => p!["defaults"]!.Text("utm_content")).Distinct().Count());
        Assert.Equal(
            30,
            (await client.DoAsync(HttpMethod.Get, "/api/v1/placement-sets")).AsArray().Single(s => s.Text("name") == mark)!["placements"]!
                .AsArray()
                .Count
        );

        // Brought again, nothing is made twice, and a link of one is ready at once.
        var (_, again) = await BringAsync(client, names + $"\n{mark} Group 31\n{mark} group 31", query);
        Assert.Equal((1, "exists"), (again.Whole("new"), again["rows"]![31].Text("state")));
        var link = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/links/compose",
            new
            {
                destination = $"http://{BeaconHost.GardenHost}/visit",
                campaign = "Seed Swap",
                placement = $"{mark} Group 31",
            }
        );
        Assert.True(link["ready"]!.GetValue<bool>());
    }

    [Fact]
    public async Task A_channel_proposes_the_medium_and_a_publisher_the_source()
    {
        using var client = demo.Host.As("viewer");
        var defaults = (
            await client.DoAsync(HttpMethod.Get, "/api/v1/placements/defaults?name=Board%20north&channel=Communities&publisher=Nattervine")
        )["defaults"]!;
        Assert.Equal(
            ("nattervine", "community", "board_north"),
            (defaults.Text("utm_source"), defaults.Text("utm_medium"), defaults.Text("utm_content"))
        );
        var nothing = (await client.DoAsync(HttpMethod.Get, "/api/v1/placements/defaults?channel=No%20such"))["defaults"]!;
        Assert.Empty(nothing.AsObject());
    }

    [Fact]
    public async Task A_table_says_what_it_knows_and_faulty_rows_are_named_while_the_rest_goes_on()
    {
        using var client = demo.Host.As("editor");
        string mark = $"t{Guid.NewGuid():N}"[..8];
        string table =
            $"Group\tNetwork\tChannel\tDays\tForm\tTerm\n{mark} a\tPippinwall\tCommunities\tSat, Sun\tpost\tdaisies\n{mark} b\t\tCommunities\tsoon\t\t\n{mark} c\t\t\t\t\t\nGate poster\t\tCommunities\t\t\t\n";
        var (_, made) = await BringAsync(client, table, "");
        Assert.Equal(["new", "refused", "refused", "exists"], States(made));
        Assert.Contains("write them like Mon, Thu", made["rows"]![1].Text("problem"), StringComparison.Ordinal);
        Assert.Contains("needs the channel", made["rows"]![2].Text("problem"), StringComparison.Ordinal);
        var placement = (await client.DoAsync(HttpMethod.Get, "/api/v1/placements")).AsArray().Single(p => p.Text("name") == $"{mark} a");
        Assert.Equal(
            ("pippinwall", "daisies", "post"),
            (placement!["defaults"]!.Text("utm_source"), placement["defaults"]!.Text("utm_term"), placement.Text("useForm"))
        );
        Assert.Equal([6, 7], placement["useDays"]!.AsArray().Select(d => d!.GetValue<int>()));

        var listed = await client.DoAsync(HttpMethod.Post, $"{Path}?dry=true&channel=Communities", new[] { new { name = $"{mark} d" } });
        Assert.Equal(["new"], States(listed));
        Assert.Equal("placements-count", (await client.CallAsync(HttpMethod.Post, Path, Array.Empty<object>())).Json.Refusal().Rule);
        Assert.Equal("sheet-refused", (await BringAsync(client, "\n\n", "")).Json.Refusal().Rule);
        using var viewer = demo.Host.As("viewer");
        Assert.Equal(HttpStatusCode.Forbidden, (await BringAsync(viewer, table, "")).Status);
    }
}

using System.Net;
using System.Text.Json.Nodes;
using PreciseBeacon.WebTests.Hosting;
using PreciseBeacon.WebTests.Traffic;

namespace PreciseBeacon.WebTests.Proofs;

/// <summary>What all checks found stands in one list: new, quiet for a while, and gone once it is found no longer.</summary>
public sealed class FindingTests : WorkingOutBase
{
    private static readonly string Day = DateTime
        .UtcNow.Date.AddDays(-5)
        .ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);

    private async Task<JsonNode> GatheredAsync(Func<JsonNode, bool> until)
    {
        await Host.ScalarAsync<Guid>("update workspaces set findings_next = now() returning id");
        JsonNode? list = null;
        await Eventually.Async(async () => until(list = await Host.GetJsonAsync("/api/v1/findings")));
        return list!;
    }

    private static JsonNode? Of(JsonNode list, string area) =>
        list["findings"]!.AsArray().FirstOrDefault(f => f!.Text("area") == area && f.Text("change") != "gone");

    [Fact]
    public async Task Findings_of_all_checks_come_stay_quiet_and_go()
    {
        var visitor = Guid.NewGuid();
        await KeepAsync([
            .. Enumerable
                .Range(0, 12)
                .Select(i => View($"{Day}T10:{i:00}", "/bulbs?utm_source=nattervin&utm_medium=social", Guid.NewGuid())),
            View($"{Day}T09:00", "/start", visitor),
            View($"{Day}T09:01", "/shop?utm_source=homepage", visitor) with
            {
                Referrer = $"http://{BeaconHost.GardenHost}/start",
            },
        ]);
        await Host.ScalarAsync<string>(
            """
            with p as (
                insert into page_check (workspace_id, page, url, links) select id, 'http://garden.example/lanterns', '', 3 from workspaces returning workspace_id
            )
            insert into page_finding (workspace_id, page, rule, severity, message, first_seen, last_seen)
            select workspace_id, 'http://garden.example/lanterns', 'tags-dropped', 2, 'The second request drops the tags.', now(), now() from p returning rule
            """
        );

        var list = await GatheredAsync(l => l.Whole("open") == 3);
        Assert.Equal(
            ["page", "inside", "stray"],
            list["findings"]!
                .AsArray()
                .Select(f => f!.Text("area"))
                .OrderBy(a =>
                    a[0] == 'p' ? 0
                    : a[0] == 'i' ? 1
                    : 2
                )
        );
        var page = Of(list, "page")!;
        Assert.Equal(
            ("error", "new", "The second request drops the tags."),
            (page.Text("severity"), page.Text("change"), page.Text("message"))
        );
        Assert.Equal("page", list["findings"]![0].Text("area")); // the gravest first
        var stray = Of(list, "stray")!;
        Assert.Equal(("nattervin", 12), (stray.Text("about"), stray.Whole("weight")));
        Assert.Contains("It probably means “nattervine”", stray.Text("message"), StringComparison.Ordinal);

        // Quiet: listed still, counted no longer, and by whom.
        using var editor = Host.As("editor");
        await editor.DoAsync(HttpMethod.Put, $"/api/v1/findings/{page.Text("id")}/quiet", new { days = 30, reason = "Being rebuilt" });
        list = await Host.GetJsonAsync("/api/v1/findings");
        Assert.Equal(2, list.Whole("open"));
        Assert.Equal("Being rebuilt", Of(list, "page").Text("quietReason"));
        await editor.DoAsync(HttpMethod.Put, $"/api/v1/findings/{page.Text("id")}/quiet", new { });
        Assert.Equal(3, (await Host.GetJsonAsync("/api/v1/findings")).Whole("open"));

        // Assigning the stray has the list gathered; found no longer, it is gone.
        await editor.DoAsync(
            HttpMethod.Post,
            "/api/v1/strays/assignments",
            new { assignments = new[] { new { when = new { utm_source = "nattervin" }, then = new { utm_source = "nattervine" } } } }
        );
        await Eventually.Async(async () => (await Host.GetJsonAsync("/api/v1/findings")).Whole("open") == 2);
        list = await Host.GetJsonAsync("/api/v1/findings");
        var gone = list["findings"]!.AsArray().Single(f => f!.Text("change") == "gone")!;
        Assert.Equal("nattervin", gone.Text("about"));
        Assert.NotNull(gone["goneAt"]);
    }

    [Theory]
    [InlineData("""{"days":0,"reason":"x"}""", "days-refused")]
    [InlineData("""{"days":366,"reason":"x"}""", "days-refused")]
    [InlineData("""{"days":3}""", "reason-missing")]
    [InlineData("""{"days":3,"reason":" "}""", "reason-missing")]
    public async Task Quiet_without_a_reason_or_for_ever_is_refused(string body, string rule)
    {
        using var editor = Host.As("editor");
        using var answer = await editor.PutAsync(
            new Uri($"/api/v1/findings/{Guid.NewGuid()}/quiet", UriKind.Relative),
            new StringContent(body, null, "application/json")
        );
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Equal(rule, JsonNode.Parse(await answer.Content.ReadAsStringAsync())!.Text("rule"));
    }
}

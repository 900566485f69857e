using System.Net;
using System.Text.Json.Nodes;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Arrivals;

/// <summary>Views of Arrivals kept under a name, and notes on days.</summary>
[Collection(nameof(DemoHost))]
public sealed class SavedViewTests(DemoHost demo)
{
    [Fact]
    public async Task A_view_is_kept_renamed_pinned_ordered_and_removed()
    {
        using var editor = demo.Host.As("editor");
        var one = await editor.DoAsync(
            HttpMethod.Post,
            "/api/v1/saved-views",
            new
            {
                name = " Monday ",
                address = "?span=7d&rows=channel",
                shared = true,
            }
        );
        var two = await editor.DoAsync(
            HttpMethod.Post,
            "/api/v1/saved-views",
            new
            {
                name = "Tuesday",
                address = "rows=source",
                shared = true,
            }
        );
        Assert.Equal(("Monday", "span=7d&rows=channel"), (one.Text("name"), one.Text("address")));
        string[] ids = [one.Text("id"), two.Text("id")];

        await editor.DoAsync(
            HttpMethod.Put,
            $"/api/v1/saved-views/{ids[0]}",
            new
            {
                name = "Every Monday",
                address = "span=7d",
                shared = true,
                pinned = true,
            }
        );
        await editor.DoAsync(HttpMethod.Put, "/api/v1/saved-views/order", new { ids = new[] { ids[1], ids[0] } });
        var listed = (await demo.Host.GetJsonAsync("/api/v1/saved-views", "viewer"))
            .AsArray()
            .Where(v => ids.Contains(v.Text("id")))
            .ToList();
        Assert.Equal(["Tuesday", "Every Monday"], listed.Select(v => v.Text("name")));
        Assert.Equal([false, true], listed.Select(v => v!["pinned"]!.GetValue<bool>()));

        foreach (string id in ids)
        {
            await editor.DoAsync(HttpMethod.Delete, $"/api/v1/saved-views/{id}");
        }

        Assert.Equal(HttpStatusCode.NotFound, (await editor.CallAsync(HttpMethod.Delete, $"/api/v1/saved-views/{ids[0]}")).Status);
    }

    [Fact]
    public async Task Only_owners_and_editors_share()
    {
        using var owner = demo.Host.As("owner");
        using var viewer = demo.Host.As("viewer");
        var (status, refused) = await viewer.CallAsync(
            HttpMethod.Post,
            "/api/v1/saved-views",
            new
            {
                name = "Mine",
                address = "",
                shared = true,
            }
        );
        Assert.Equal((HttpStatusCode.Forbidden, "sharing-refused"), (status, refused.Refusal().Rule));

        string shared = (
            await owner.DoAsync(
                HttpMethod.Post,
                "/api/v1/saved-views",
                new
                {
                    name = "Everybody's",
                    address = "",
                    shared = true,
                }
            )
        ).Text("id");
        var own = (await viewer.DoAsync(HttpMethod.Get, "/api/v1/saved-views")).AsArray().Single(v => v.Text("id") == shared);
        Assert.Equal("Everybody's", own.Text("name"));
        await owner.DoAsync(HttpMethod.Delete, $"/api/v1/saved-views/{shared}");
    }

    [Theory]
    [InlineData("{}", "name-missing")]
    [InlineData("{\"name\":\"  \"}", "name-missing")]
    [InlineData("{\"name\":\"LONG\"}", "name-long")]
    public async Task A_view_that_can_t_be_kept_is_refused_in_a_sentence(string body, string rule)
    {
        using var owner = demo.Host.As("owner");
        var (status, refused) = await owner.CallAsync(
            HttpMethod.Post,
            "/api/v1/saved-views",
            JsonNode.Parse(body.Replace("LONG", new string('x', 101), StringComparison.Ordinal))
        );
        Assert.Equal((HttpStatusCode.UnprocessableEntity, rule), (status, refused.Refusal().Rule));
    }

    [Fact]
    public async Task A_note_stands_on_its_day_until_it_is_removed()
    {
        using var editor = demo.Host.As("editor");
        var note = await editor.DoAsync(HttpMethod.Post, "/api/v1/day-notes", new { day = "2026-02-03", text = " Server moved " });
        Assert.Equal("Server moved", note.Text("text"));
        string address = $"/api/v1/day-notes/{note.Text("id")}";
        await editor.DoAsync(HttpMethod.Put, address, new { day = "2026-02-04", text = "Server moved again" });
        var listed = await demo.Host.GetJsonAsync("/api/v1/day-notes?from=2026-02-04&to=2026-02-04", "viewer");
        Assert.Equal(["Server moved again"], listed.AsArray().Select(n => n.Text("text")));
        Assert.Empty((await demo.Host.GetJsonAsync("/api/v1/day-notes?from=2026-02-01&to=2026-02-03")).AsArray());

        foreach (var (body, rule) in new[] { ((object)new { text = "x" }, "day-missing"), (new { day = "2026-02-03" }, "text-missing") })
        {
            Assert.Equal(rule, (await editor.CallAsync(HttpMethod.Post, "/api/v1/day-notes", body)).Json.Refusal().Rule);
        }

        using var viewer = demo.Host.As("viewer");
        Assert.Equal(HttpStatusCode.Forbidden, (await viewer.CallAsync(HttpMethod.Delete, address)).Status);
        await editor.DoAsync(HttpMethod.Delete, address);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await editor.CallAsync(HttpMethod.Put, address, new { day = "2026-02-04", text = "x" })).Status
        );
    }
}

using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;

namespace PreciseBeacon.WebTests.Hosting;

/// <summary>One of everything a workspace can have, for calls that name a thing by its id.</summary>
public static class Belongings
{
    private static readonly Dictionary<string, string> Tables = new()
    {
        ["/api/v1/campaigns/"] = "select id from campaigns where archived_at is null",
        ["/api/v1/placements/"] = "select id from placements where retired_at is null",
        ["/api/v1/placement-sets/"] = "select id from placement_sets",
        ["/api/v1/pages/"] = "select id from site_pages",
        ["/api/v1/sites/"] = "select id from sites",
        ["/api/v1/members/invitations/"] = "select id from invitations",
        ["/api/v1/members/"] = "select id from members",
        ["/api/v1/conversion-kinds/"] = "select id from conversion_kinds",
        ["/api/v1/links/bulk/"] = "select change_id from change_log where change_id is not null",
        ["/api/v1/links/"] = "select link_id from short_links",
        ["/api/v1/partner-pages/"] = "select id from partner_pages",
        ["/api/v1/batches/"] = "select id from batches",
        ["/api/v1/recipes/"] = "select id from saved_recipes",
        ["/api/v1/mails/"] = "select id from mails",
        ["/api/v1/link-reviews/"] = "select id from link_reviews",
        ["/api/v1/hosts/"] = "select id from approved_hosts where not approved",
        ["/api/v1/code-logos/"] = "select id from code_logos",
        ["/api/v1/short-domains/"] = "select id from short_domains where not is_first",
        ["/api/v1/refused-hosts/"] = "select id from refused_hosts",
        ["/api/v1/passing-hosts/"] = "select id from passing_hosts",
        ["/api/v1/imports/access-log/"] = "select id from log_readings",
        ["/api/v1/imports/costs/"] = "select id from cost_import",
        ["/api/v1/imports/figures/"] = "select id from figure_import",
        ["/api/v1/day-notes/"] = "select id from day_notes",
        ["/api/v1/saved-views/"] = "select id from saved_views",
        ["/api/v1/results-pages/"] = "select id from result_pages where link_id is null",
        ["/api/v1/visits/"] = "select id from visit",
        ["/api/v1/trials/"] = "select id from trial",
        ["/api/v1/findings/"] = "select id from proof_finding",
        ["/api/v1/keys/"] = "select id from api_keys where name = 'spare'",
    };

    private const string OnePixel = "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==";

    /// <summary>Gives the demo's workspace one of everything it has not got.</summary>
    public static async Task MakeAsync(BeaconHost host)
    {
        using var owner = host.As("owner");
        var link = await host.SaveLinkAsync();
        await owner.DoAsync(HttpMethod.Post, "/api/v1/links/bulk", new { links = new[] { link.Text("id") }, addTopics = new[] { "kept" } });
        await owner.DoAsync(
            HttpMethod.Post,
            "/api/v1/links",
            new
            {
                destination = "https://strange.example/",
                campaign = "Seed Swap",
                placement = "Gate poster",
            }
        );
        await owner.DoAsync(HttpMethod.Post, "/api/v1/members/invitations", new { mail = "spare@marrowmere.example", role = "viewer" });
        await owner.DoAsync(HttpMethod.Post, "/api/v1/conversion-kinds", new { name = "Spare", text = "/spare" });
        await owner.DoAsync(HttpMethod.Post, "/api/v1/day-notes", new { day = "2026-11-03", text = "Spare" });
        await owner.DoAsync(HttpMethod.Post, "/api/v1/saved-views", new { name = "Spare", address = "rows=source" });
        await owner.DoAsync(HttpMethod.Post, "/api/v1/results-pages", new { name = "Spare", address = "rows=source" });
        await owner.DoAsync(HttpMethod.Post, "/api/v1/refused-hosts", new { host = "refused.example" });
        await owner.DoAsync(HttpMethod.Post, "/api/v1/passing-hosts", new { host = "pay.example" });
        await owner.DoAsync(HttpMethod.Post, "/api/v1/short-domains", new { address = "https://spare.example" });
        await owner.DoAsync(HttpMethod.Post, "/api/v1/keys", new { name = "spare", role = "viewer" });
        await owner.DoAsync(HttpMethod.Post, "/api/v1/trials", new { linkId = link.Text("id") });
        await host.ScalarAsync<Guid>(
            """
            insert into proof_finding (id, workspace_id, key, area, about, severity, subject, message, weight, weight_then, first_seen)
            select gen_random_uuid(), id, 'spare', 0, 'spare', 1, 'Spare', 'Spare.', 1, 1, now() from workspaces limit 1 returning id
            """
        );
        string placement = (await host.GetJsonAsync("/api/v1/placements"))[0].Text("id");
        await owner.DoAsync(HttpMethod.Post, "/api/v1/partner-pages", new { name = "Spare", placements = new[] { placement } });
        await owner.DoAsync(HttpMethod.Post, "/api/v1/placement-sets", new { name = "Spare", placements = new[] { placement } });
        await owner.DoAsync(HttpMethod.Post, "/api/v1/pages", new { text = $"http://{BeaconHost.GardenHost}/spare" });
        var batch = await SendAsync(
            owner,
            "/api/v1/batches",
            Encoding.UTF8.GetBytes($"Page\r\nhttp://{BeaconHost.GardenHost}/spare\r\n"),
            "sheet.csv"
        );
        await owner.CallAsync(HttpMethod.Post, "/api/v1/recipes", new { name = "Spare", batch = batch.Text("id") });
        await SendAsync(
            owner,
            "/api/v1/imports/access-log",
            "192.0.2.1 - - [01/Nov/2026:10:00:00 +0000] \"GET /spare HTTP/1.1\" 200 1 \"-\" \"Mozilla/5.0 Fernleaf/12.1\""u8.ToArray(),
            "access.log"
        );
        await SendAsync(
            owner,
            "/api/v1/imports/costs",
            Encoding.UTF8.GetBytes("Day,Campaign,Cost\n2026-11-03,Lantern Nights,1.50\n"),
            "costs.csv"
        );
        await SendAsync(
            owner,
            "/api/v1/imports/figures?system=Wendfar",
            Encoding.UTF8.GetBytes("Day,Campaign,Clicks\n2026-11-03,Lantern Nights,150\n"),
            "figures.csv"
        );
        await SendAsync(owner, "/api/v1/code-logos", Convert.FromBase64String(OnePixel), "logo.png");
        await PostTextAsync(
            owner,
            "/api/v1/mails?name=Spare",
            $"<html><body><a href=\"http://{BeaconHost.GardenHost}/spare\">Fern</a></body></html>",
            "text/html"
        );
        (await host.MeasureAsync(new { k = "demo-garden", u = $"http://{BeaconHost.GardenHost}/spare" })).Dispose();
        await Eventually.Async(async () => await host.ScalarAsync<long>("select count(*) from visit") > 0);
        await PostTextAsync(
            owner,
            "/api/v1/link-reviews?name=Spare",
            $"http://{BeaconHost.GardenHost}/spare?utm_source=Fern",
            "text/plain"
        );
    }

    /// <summary>The call's path with the id of a thing of the workspace in it.</summary>
    public static async Task<string> PathAsync(BeaconHost host, Operation call)
    {
        string start = call.Path.Contains("{id", StringComparison.Ordinal)
            ? call.Path[..call.Path.IndexOf('{', StringComparison.Ordinal)]
            : "";
        return start.Length == 0
            ? call.Path.Replace("{name}", "newsletter.html", StringComparison.Ordinal)
            : call.Path.Replace("{id}", (await host.ScalarAsync<Guid>($"{Tables[start]} limit 1")).ToString(), StringComparison.Ordinal);
    }

    private static async Task<JsonNode> SendAsync(HttpClient client, string path, byte[] file, string name)
    {
        using var form = new MultipartFormDataContent
        {
            { new StringContent(BeaconHost.GardenHost), "site" },
            { new ByteArrayContent(file), "file", name },
        };
        using var answer = await client.PostAsync(path, form);
        string text = await answer.Content.ReadAsStringAsync();
        Assert.True(answer.IsSuccessStatusCode, $"{path}: {text}");
        return JsonNode.Parse(text)!;
    }

    private static async Task PostTextAsync(HttpClient client, string path, string text, string type)
    {
        using var content = new StringContent(text, Encoding.UTF8, type);
        using var answer = await client.PostAsync(path, content);
        Assert.True(answer.IsSuccessStatusCode, $"{path}: {await answer.Content.ReadAsStringAsync()}");
    }
}

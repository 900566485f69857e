using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Mails;

/// <summary>An HTML mail in, every link to our sites tagged, the same mail out.</summary>
[Collection(nameof(DemoHost))]
public sealed class MailTests(DemoHost demo)
{
    private const string Site = $"http://{BeaconHost.GardenHost}";

    private static string Newsletter =>
        File.ReadAllText(Path.Combine(DatabaseCluster.Root, "samples", "newsletter.html"))
            .Replace("https://marrowmere.example", Site, StringComparison.Ordinal);

    private static async Task<(HttpStatusCode Status, JsonNode Json)> BringAsync(
        HttpClient client,
        string mail,
        string name = "newsletter.html"
    )
    {
        using var answer = await client.PostAsync($"/api/v1/mails?name={name}", new ByteArrayContent(Encoding.UTF8.GetBytes(mail)));
        return (answer.StatusCode, JsonNode.Parse(await answer.Content.ReadAsStringAsync())!);
    }

    [Fact]
    public async Task A_newsletter_gets_its_links_and_nothing_else_changes()
    {
        using var client = demo.Host.As("editor");
        string mark = $"m{Guid.NewGuid():N}"[..8];
        string mail = Newsletter.Replace("lantern-nights\"", $"lantern-nights?{mark}\"", StringComparison.Ordinal);
        var (_, made) = await BringAsync(client, mail);
        string path = $"/api/v1/mails/{made.Text("id")}";
        var answer = await client.DoAsync(HttpMethod.Get, path);
        Assert.Equal(14, answer["links"]!.AsArray().Count);
        Assert.Equal(
            ["tag", "leave", "tag", "tag", "tag", "tag", "mend", "tag", "leave", "leave", "leave", "leave", "tag", "leave"],
            answer["links"]!.AsArray().Select(l => l.Text("fate"))
        );
        Assert.Equal(HttpStatusCode.Conflict, (await client.CallAsync(HttpMethod.Post, $"{path}/send")).Status);

        object Choices(int revision, object typed, int[] skipped) =>
            new
            {
                placement = "The Trellis – header button",
                campaign = "Lantern Nights",
                contentBy = "numberAndText",
                shorten = false,
                typed,
                skipped,
                revision,
            };
        answer = await client.DoAsync(HttpMethod.Put, path, Choices(1, new Dictionary<string, string> { ["4"] = "Big button" }, [13]));
        Assert.Equal(
            HttpStatusCode.Conflict,
            (await client.CallAsync(HttpMethod.Put, path, Choices(1, new Dictionary<string, string>(), []))).Status
        );
        Assert.Equal(7, answer.Whole("ready"));

        // Two people press the button in the same moment: the links are made once.
        var twice = await Task.WhenAll(Enumerable.Range(0, 2).Select(_ => client.DoAsync(HttpMethod.Post, $"{path}/make")));
        answer = twice[0];
        Assert.All(answer["links"]!.AsArray(), l =>
            Assert.Equal(l.Whole("number") is 1 or 3 or 4 or 5 or 6 or 7 or 8, l!["written"] is not null)
        );

        string after = await client.GetStringAsync($"{path}/result");
        string expected = mail;
        foreach (var link in answer["links"]!.AsArray().Where(l => l!["written"] is not null))
        {
            string was = link.Text("href").Replace("&", "&amp;", StringComparison.Ordinal),
                now = link.Text("written").Replace("&", "&amp;", StringComparison.Ordinal);
            string raw = new[] { $"\"{was}\"", $"'{was}'", $"={was}>", $"\"{link.Text("href")}\"" }.First(r =>
                expected.Contains(r, StringComparison.Ordinal)
            );
            int at = expected.IndexOf(raw, StringComparison.Ordinal);
            string put = raw[0] == '=' ? $"=\"{now}\">" : $"{raw[0]}{now}{raw[^1]}";
            expected = string.Concat(expected.AsSpan(0, at), put, expected.AsSpan(at + raw.Length));
        }

        Assert.Equal(expected, after);
        Assert.Contains(
            $"{Site}/visit?from=trellis&amp;lang=en&amp;utm_source=the_trellis&amp;utm_medium=email&amp;",
            after,
            StringComparison.Ordinal
        );
        Assert.Contains("utm_content=4_big_button".Replace("4_", "", StringComparison.Ordinal), after, StringComparison.Ordinal);
        Assert.Contains("utm_content=6_read_more", after, StringComparison.Ordinal);

        // Written again, the same links are taken and none is made twice.
        long links = await demo.Host.ScalarAsync<long>("select count(*) from links where destination like $1", $"%{mark}%");
        await client.DoAsync(HttpMethod.Post, $"{path}/make");
        Assert.Equal(links, await demo.Host.ScalarAsync<long>("select count(*) from links where destination like $1", $"%{mark}%"));
        Assert.Equal(2, links);
    }

    /// <summary>Merge tags of the shapes in rule 1.6 stay as they are, spaces and all; behind a short link nobody would fill them in.</summary>
    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task Merge_tags_go_back_into_the_mail_as_they_came(bool shorten)
    {
        using var client = demo.Host.As("editor");
        string[] tags = ["{{ contact.id }}", "*|ID|*", "<%= id %>", "%recipient.id%", "[[id]]", "${id}"];
        string mail =
            $"<html><body>{string.Concat(tags.Select((t, i) => $"<a href=\"{Site}/visit?m{i}={t}\">Plan {i}</a>"))}</body></html>";
        string path = $"/api/v1/mails/{(await BringAsync(client, mail)).Json.Text("id")}";
        await client.DoAsync(
            HttpMethod.Put,
            path,
            new
            {
                placement = "The Trellis – header button",
                campaign = "Lantern Nights",
                contentBy = "position",
                shorten,
                revision = 1,
            }
        );
        var made = await client.DoAsync(HttpMethod.Post, $"{path}/make");
        string after = await client.GetStringAsync($"{path}/result");
        for (int i = 0; i < tags.Length; i++)
        {
            Assert.Contains($"{Site}/visit?m{i}={tags[i]}&amp;utm_source=the_trellis", after, StringComparison.Ordinal);
            Assert.Equal(shorten, made["links"]![i]!["notices"]!.AsArray().Any(n => n.Text("rule") == "placeholder-on-short-link"));
        }
    }

    /// <summary>A mail made from last month's carries last month's tags, right by themselves: what the mail's own choice gives replaces them.</summary>
    [Fact]
    public async Task A_mail_used_again_gets_its_new_campaign_and_lists_each_link_that_changes()
    {
        using var client = demo.Host.As("editor");
        var before = await demo.Host.SaveLinkAsync($"{Site}/visit", "button", "The Trellis – header button");
        string url = before["link"].Text("url");
        var (_, made) = await BringAsync(
            client,
            $"<html><body><a href=\"{url.Replace("&", "&amp;", StringComparison.Ordinal)}\">Plan</a> <a href=\"http://{demo.Host.ShortHost}/fern\">Fern</a></body></html>"
        );
        string path = $"/api/v1/mails/{made.Text("id")}";
        var answer = await client.DoAsync(HttpMethod.Get, path);
        Assert.Equal(
            ("right", "leave", "is one of your short links"),
            (answer["links"]![0].Text("fate"), answer["links"]![1].Text("fate"), answer["links"]![1].Text("why"))
        );

        object Choices(string campaign, int revision, int[] skipped) =>
            new
            {
                placement = "The Trellis – header button",
                campaign,
                contentBy = "nothing",
                shorten = false,
                typed = new Dictionary<string, string>(),
                skipped,
                revision,
            };
        answer = await client.DoAsync(HttpMethod.Put, path, Choices("Lantern Nights", 1, []));
        Assert.Equal("right", answer["links"]![0].Text("fate"));

        answer = await client.DoAsync(HttpMethod.Put, path, Choices("Seed Swap", 2, []));
        Assert.Equal(("mend", 1), (answer["links"]![0].Text("fate"), answer.Whole("ready")));
        answer = await client.DoAsync(HttpMethod.Post, $"{path}/make");
        string written = answer["links"]![0].Text("written");
        Assert.Contains("seed_swap", written, StringComparison.Ordinal);
        Assert.DoesNotContain("lantern", written, StringComparison.Ordinal);
        Assert.EndsWith("utm_content=button", written, StringComparison.Ordinal);

        // One that is to keep its tags is excluded.
        answer = await client.DoAsync(HttpMethod.Put, path, Choices("Bulb Sale", answer.Whole("revision"), [1]));
        Assert.Equal(0, answer.Whole("ready"));
    }

    [Fact]
    public async Task A_preview_is_shut_in_and_an_inbox_that_is_away_says_so()
    {
        using var client = demo.Host.As("editor");
        var (_, made) = await BringAsync(
            client,
            $"<html><script>alert(1)</script><a href=\"{Site}/visit?{Guid.NewGuid():N}\">Visit</a></html>"
        );
        string path = $"/api/v1/mails/{made.Text("id")}";
        await client.DoAsync(
            HttpMethod.Put,
            path,
            new
            {
                placement = "Members’ mail",
                campaign = "School Visits",
                contentBy = "position",
                shorten = true,
                revision = 1,
            }
        );
        var answer = await client.DoAsync(HttpMethod.Post, $"{path}/make");
        Assert.StartsWith($"http://{demo.Host.ShortHost}/", answer["links"]![0].Text("written"), StringComparison.Ordinal);
        foreach (string when in new[] { "before", "after" })
        {
            using var preview = await client.GetAsync($"{path}/{when}");
            string policy = preview.Headers.GetValues("Content-Security-Policy").Single();
            Assert.StartsWith("sandbox;", policy, StringComparison.Ordinal);
            Assert.Contains("default-src 'none'", policy, StringComparison.Ordinal);
            Assert.DoesNotContain("script-src", policy, StringComparison.Ordinal);
            Assert.Equal("SAMEORIGIN", preview.Headers.GetValues("X-Frame-Options").Single());
        }

        var (status, problem) = await client.CallAsync(HttpMethod.Post, $"{path}/send");
        Assert.Equal((HttpStatusCode.BadGateway, "inbox-away"), (status, problem.Refusal().Rule));
    }

    [Theory]
    [InlineData("no HTML at all", 422)]
    [InlineData("", 422)]
    [InlineData("Subject: x\r\nFrom: a@m.example\r\n\r\nplain", 422)]
    public async Task What_is_no_mail_is_refused_and_nothing_is_stored(string mail, int status)
    {
        using var client = demo.Host.As("editor");
        long before = await demo.Host.ScalarAsync<long>("select count(*) from mails");
        var (given, problem) = await BringAsync(client, mail);
        Assert.Equal(status, (int)given);
        Assert.EndsWith(".", problem.Refusal().Says, StringComparison.Ordinal);
        Assert.Equal(before, await demo.Host.ScalarAsync<long>("select count(*) from mails"));
    }
}

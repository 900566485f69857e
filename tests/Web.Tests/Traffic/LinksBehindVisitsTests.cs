using System.Net;
using System.Net.Http.Json;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Traffic;

/// <summary>Which link and which scan are behind a visit, whatever comes late and whatever the link leads to since.</summary>
public sealed class LinksBehindVisitsTests : WorkingOutBase
{
    [Fact]
    public async Task A_visit_belongs_to_the_link_whose_tags_it_carries()
    {
        using var client = Host.As("editor");
        string exact = await MakeAsync(client, "/visit", "spring");
        string otherPage = await MakeAsync(client, "/shop", "spring");
        string open = await MakeAsync(client, "/visit", "{keyword}");
        var now = DateTime.UtcNow;
        string Moment(int minutes) =>
            now.AddMinutes(minutes).ToString("yyyy-MM-ddTHH:mm:ss", System.Globalization.CultureInfo.InvariantCulture);
        const string Tags = "utm_source=the_trellis&utm_medium=email&utm_campaign=attic_sale&utm_term=";

        await KeepAsync(
            View(Moment(1), $"/visit?{Tags}spring", Guid.NewGuid()),
            View(Moment(2), $"/shop?{Tags}spring", Guid.NewGuid()),
            View(Moment(3), $"/elsewhere?{Tags}spring", Guid.NewGuid()),
            View(Moment(4), $"/visit?{Tags}tulips", Guid.NewGuid()),
            View(Moment(5), "/visit?utm_source=the_trellis", Guid.NewGuid()),
            View(Moment(-60), $"/visit?{Tags}spring", Guid.NewGuid())
        );
        Assert.Equal(
            $"/elsewhere {exact}, /shop {otherPage}, /visit , /visit {exact}, /visit {open}",
            await Host.ScalarAsync<string>(
                """
                select string_agg(distinct replace(c.address, substring(c.address from '^[^/]*'), '') || ' ' || coalesce(v.link_id::text, ''), ', '
                    order by replace(c.address, substring(c.address from '^[^/]*'), '') || ' ' || coalesce(v.link_id::text, ''))
                from visit v join visited_page c on c.id = v.landing_page_id
                """
            )
        );
        var row = await Host.GetJsonAsync($"/api/v1/links/{exact}");
        Assert.Equal((2L, "0.00"), (row["visits"]!.GetValue<long>(), row["revenue"]!["amount"]!.GetValue<string>()));
    }

    /// <summary>The scan is kept before the visit or after it, and the visitor may be known by an id of the site's own.</summary>
    [Theory]
    [InlineData(true, false)]
    [InlineData(true, true)]
    [InlineData(false, false)]
    [InlineData(false, true)]
    public async Task A_visit_through_a_printed_code_is_known_as_one(bool scanFirst, bool known)
    {
        using var client = Host.As("editor");
        string link = await MakeAsync(client, "/visit", "poster");
        var code = await Host.ScalarAsync<Guid>($"select id from short_links where link_id = '{link}' and use = 'Code'");
        var text = await Host.ScalarAsync<Guid>($"select id from short_links where link_id = '{link}' and use = 'Text'");
        Guid scanner = Guid.NewGuid(),
            clicker = Guid.NewGuid();
        var at = DateTimeOffset.UtcNow.AddMinutes(1);
        RawHit Hit(Guid shortLink, Guid visitor) =>
            new(
                Guid.CreateVersion7(),
                Workspace,
                at,
                shortLink,
                visitor,
                null,
                HitFlags.None,
                "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1",
                ""
            );
        RawPageEvent Arrived(Guid visitor) =>
            View("2026-06-01T10:00", "/visit?utm_source=the_trellis&utm_medium=email", known ? Guid.NewGuid() : visitor) with
            {
                At = at.AddSeconds(3),
                DayVisitor = known ? visitor : null,
                HasId = known,
            };
        var scans = new RawEvents();
        scans.Hits.AddRange([Hit(code, scanner), Hit(text, clicker)]);
        if (scanFirst)
        {
            await new SpoolDrain(Host.Database).WriteStraightAsync(scans, CancellationToken.None);
        }

        await KeepAsync(Arrived(scanner), Arrived(clicker));
        if (!scanFirst)
        {
            await new SpoolDrain(Host.Database).WriteStraightAsync(scans, CancellationToken.None);
            await WorkOutAsync();
        }

        Assert.Equal(
            "false:1,true:1",
            await Host.ScalarAsync<string>(
                "select string_agg(printed || ':' || visits, ',' order by printed) from (select c.printed, count(*) as visits from visit v join traffic_source c on c.id = v.source_id group by 1) t"
            )
        );

        // A channel may go by it.
        using var owner = Host.As("owner");
        var document = (await Host.GetJsonAsync("/api/v1/convention"))["document"]!.DeepClone();
        document["channels"]!
            .AsArray()
            .Insert(
                0,
                System.Text.Json.Nodes.JsonNode.Parse(
                    """{"name":"Scanned","group":"printed","conditions":[{"subject":"printed","test":"is","values":["yes"]}]}"""
                )
            );
        using var put = await owner.PutAsJsonAsync("/api/v1/convention", new { document, revision = (string?)null });
        string revision = (await put.Content.ReadFromJsonAsync<System.Text.Json.Nodes.JsonNode>())!["revision"]!.GetValue<string>();
        using var published = await owner.PostAsync($"/api/v1/convention/publish?revision={revision}", null);
        var report = await Host.GetJsonAsync("/api/v1/arrivals?rows=channel,group");
        Assert.Equal(
            ["Newsletter and mail/own", "Scanned/printed"],
            report["rows"]!.AsArray().Select(r => string.Join('/', r!["keys"]!.AsArray())).Order(StringComparer.Ordinal)
        );
    }

    /// <summary>The scan answered with the page that was due then; that the link leads elsewhere since changes nothing, nor does a redirect rule.</summary>
    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task A_scan_counts_as_printed_by_the_page_it_led_to_whatever_the_link_leads_to_later(bool byRule)
    {
        using var client = Host.As("editor");
        string id = await MakeAsync(client, "/visit", "poster");
        string slug = await Host.ScalarAsync<string>($"select '/' || slug from short_links where link_id = '{id}' and use = 'Code'");
        string other = $"http://{BeaconHost.GardenHost}/lantern-nights";
        await Eventually.Async(async () => (await Host.ClickAsync(slug, "curl/8.5.0")).StatusCode == HttpStatusCode.Found);
        await client.DoAsync(
            HttpMethod.Put,
            $"/api/v1/links/{id}/route",
            new
            {
                leadsTo = byRule ? $"http://{BeaconHost.GardenHost}/visit" : other,
                paused = false,
                revision = 0,
                turns = byRule ? new[] { new { leadsTo = other, device = "phone" } } : [],
            }
        );
        // Asked with what counts as no click until the redirector knows; only then does the person come.
        await Eventually.Async(async () =>
            (await Host.ClickAsync(slug, method: HttpMethod.Head)).Headers.Location!.OriginalString.StartsWith(
                other,
                StringComparison.Ordinal
            )
        );
        using (await Host.ClickAsync(slug)) { }

        await Eventually.Async(async () =>
            await Host.ScalarAsync<long>(
                $"select count(*) from click c join short_links s on s.id = c.short_link_id where s.link_id = '{id}' and c.kind = 'Person'"
            ) > 0
        );
        await client.DoAsync(
            HttpMethod.Put,
            $"/api/v1/links/{id}/route",
            new
            {
                leadsTo = $"http://{BeaconHost.GardenHost}/shop",
                paused = false,
                revision = 1,
            }
        );

        var visitor = await Host.ScalarAsync<Guid>(
            $"select visitor from click c join short_links s on s.id = c.short_link_id where s.link_id = '{id}' and c.kind = 'Person' limit 1"
        );
        var at = await Host.ScalarAsync<DateTime>(
            $"select max(c.at) from click c join short_links s on s.id = c.short_link_id where s.link_id = '{id}' and c.kind = 'Person'"
        );
        RawPageEvent Arrived(string path, int after) =>
            View("2026-06-01T10:00", path, visitor) with
            {
                At = new DateTimeOffset(at, TimeSpan.Zero).AddSeconds(after),
            };
        await KeepAsync(Arrived("/lantern-nights?utm_source=a&utm_medium=email", 2), Arrived("/shop?utm_source=b&utm_medium=email", 4));
        Assert.Equal(
            "a:true,b:false",
            await Host.ScalarAsync<string>(
                "select string_agg(distinct (c.tags ->> 'utm_source') || ':' || c.printed, ',') from visit v join traffic_source c on c.id = v.source_id"
            )
        );
    }

    /// <summary>The second tap comes with the next day's hash; it may also be kept before the first one is.</summary>
    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task A_double_tap_over_midnight_is_one_click(bool lateFirst)
    {
        using var client = Host.As("editor");
        string link = await MakeAsync(client, "/visit", "midnight");
        var text = await Host.ScalarAsync<Guid>($"select id from short_links where link_id = '{link}' and use = 'Text'");
        Guid before = Guid.NewGuid(),
            after = Guid.NewGuid();
        var midnight = new DateTimeOffset(2026, 6, 2, 0, 0, 0, TimeSpan.FromHours(1)); // summer time in Dublin
        RawHit Hit(double seconds, Guid visitor, Guid? earlier) =>
            new(
                Guid.CreateVersion7(),
                Workspace,
                midnight.AddSeconds(seconds).ToUniversalTime(),
                text,
                visitor,
                earlier,
                HitFlags.None,
                "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1",
                ""
            );
        RawHit[] hits = [Hit(-1, before, null), Hit(0.5, after, before), Hit(60, after, before)];
        foreach (var some in lateFirst ? new[] { hits[1..], hits[..1] } : [hits[..1], hits[1..]])
        {
            var events = new RawEvents();
            events.Hits.AddRange(some);
            await new SpoolDrain(Host.Database).WriteStraightAsync(events, CancellationToken.None);
            await Eventually.Async(async () => await Host.ScalarAsync<long>("select count(*) from hit_due") == 0);
        }

        Assert.Equal(
            "Person,DoubleTap,Person",
            await Host.ScalarAsync<string>($"select string_agg(kind, ',' order by at) from click where short_link_id = '{text}'")
        );
    }

    private static async Task<string> MakeAsync(HttpClient client, string path, string term)
    {
        var answer = await client.PostAsJsonAsync(
            "/api/v1/links",
            new
            {
                destination = $"http://{BeaconHost.GardenHost}{path}",
                fields = new Dictionary<string, string>
                {
                    ["source"] = "the_trellis",
                    ["medium"] = "email",
                    ["campaign"] = "attic_sale",
                    ["term"] = term,
                },
            }
        );
        return (await answer.Content.ReadFromJsonAsync<System.Text.Json.Nodes.JsonNode>())!["id"]!.GetValue<string>();
    }
}

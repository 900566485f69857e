using System.Net;
using System.Text.Json.Nodes;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Compose;

/// <summary>Fifty people save at the same moment, and want the same few slugs.</summary>
[Collection(nameof(DemoHost))]
public sealed class SaversTests(DemoHost demo)
{
    private const int People = 50;
    private const int Slugs = 15;

    private static object Link(string slug) =>
        new
        {
            destination = $"http://{BeaconHost.GardenHost}/visit",
            campaign = "Lantern Nights",
            placement = "Gate poster",
            slug,
        };

    [Fact]
    public async Task Each_slug_is_somebodys_and_everybody_else_is_told()
    {
        string mark = Guid.NewGuid().ToString("N")[..6];
        var answers = await Task.WhenAll(
            Enumerable
                .Range(0, People)
                .Select(async i =>
                {
                    using var person = demo.Host.As("editor");
                    return await person.CallAsync(HttpMethod.Post, "/api/v1/links", Link($"one-{mark}-{i % Slugs}"));
                })
        );
        Assert.Equal(Slugs, answers.Count(a => a.Status == HttpStatusCode.Created));
        Assert.All(answers.Where(a => a.Status != HttpStatusCode.Created), a =>
            Assert.Equal((HttpStatusCode.Conflict, "slug-taken"), (a.Status, a.Json.Refusal().Rule))
        );
    }

    /// <summary>Several at once, each in an order of their own, is what deadlocks are made of.</summary>
    [Fact]
    public async Task Nobody_stands_in_anybodys_way_who_saves_several_in_another_order()
    {
        string mark = Guid.NewGuid().ToString("N")[..6];
        var random = new Random(3);
        var wanted = Enumerable
            .Range(0, People)
            .Select(_ => Enumerable.Range(0, Slugs).OrderBy(_ => random.Next()).Take(4).Select(i => $"many-{mark}-{i}").ToArray())
            .ToList();
        var answers = await Task.WhenAll(
            wanted.Select(async slugs =>
            {
                using var person = demo.Host.As("editor");
                return await person.CallAsync(HttpMethod.Post, "/api/v1/links/many", new { links = slugs.Select(Link) });
            })
        );
        Assert.All(answers, a =>
            Assert.True(a.Status is HttpStatusCode.OK or HttpStatusCode.Created or HttpStatusCode.Conflict, $"{(int)a.Status} {a.Json}")
        );
        Assert.Contains(answers, a => a.Status != HttpStatusCode.Conflict);
        Assert.Equal(
            answers.Count(a => a.Status != HttpStatusCode.Conflict) * 4L,
            await demo.Host.ScalarAsync<long>("select count(*) from short_links where slug like $1", $"many-{mark}-%")
        );
    }

    /// <summary>Whoever changes where links lead, and whoever makes new ones, touch the same tables in another order.</summary>
    [Fact]
    public async Task Making_links_and_leading_others_elsewhere_go_on_side_by_side()
    {
        var links = await Task.WhenAll(Enumerable.Range(0, 10).Select(_ => demo.Host.SaveLinkAsync()));
        string[] ids = [.. links.Select(l => l.Text("id"))];
        var answers = await Task.WhenAll(
            Enumerable
                .Range(0, 30)
                .Select(async i =>
                {
                    using var person = demo.Host.As("editor");
                    return i % 3 == 0
                        ? await person.CallAsync(
                            HttpMethod.Post,
                            "/api/v1/links/bulk",
                            new { links = i % 2 == 0 ? ids : [.. ids.Reverse()], leadsTo = $"http://{BeaconHost.GardenHost}/visit?{i}" }
                        )
                        : await person.CallAsync(HttpMethod.Post, "/api/v1/links", Link(""));
                })
        );
        Assert.All(answers, a => Assert.True((int)a.Status < 300, $"{(int)a.Status} {a.Json}"));
    }
}

using System.Text.Json.Nodes;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.WebTests.Hosting;
using PreciseBeacon.WebTests.Traffic;

namespace PreciseBeacon.WebTests.Proofs;

/// <summary>Links that differ in content, with the visitors of each counted once and for the variant seen first.</summary>
public sealed class VariantTests : WorkingOutBase
{
    private static readonly DateTime Begin = DateTime.UtcNow.Date.AddDays(-20);

    private static async Task<JsonNode> MakeAsync(HttpClient client, string content, string page = "/visit", string? medium = null)
    {
        var fields = new Dictionary<string, string> { ["utm_content"] = content };
        if (medium is not null)
        {
            fields["utm_medium"] = medium;
        }

        return await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/links",
            new
            {
                destination = $"http://{BeaconHost.GardenHost}{page}",
                campaign = "Lantern Nights",
                placement = "Gate poster",
                fields,
            }
        );
    }

    /// <summary>A view of a link's page some hours after the beginning, and a conversion in the same visit where one is asked for.</summary>
    private IEnumerable<RawPageEvent> Visit(JsonNode link, double hours, Guid visitor, bool hasId, bool converts)
    {
        string at = Begin.AddHours(hours).ToString("yyyy-MM-ddTHH:mm:ss", System.Globalization.CultureInfo.InvariantCulture);
        var view = View(at, "", visitor) with { Url = link["link"]!.Text("url"), HasId = hasId };
        yield return view;
        if (converts)
        {
            yield return view with
            {
                Id = Guid.CreateVersion7(),
                At = view.At.AddSeconds(20),
                Kind = PageEventKind.Conversion,
                Name = "ticket",
            };
        }
    }

    [Fact]
    public async Task The_better_variant_is_named_and_what_differs_in_more_than_content_too()
    {
        using var client = Host.As("editor");
        var lake = await MakeAsync(client, "lake");
        var lamps = await MakeAsync(client, "lamps");
        var mail = await MakeAsync(client, "mailed", medium: "email");
        await MakeAsync(client, "alone", "/shop");
        await Host.ScalarAsync<int>(
            "with l as (update links set created_at = now() - interval '60 days' returning 1) select count(*)::int from l"
        );

        // 400 visits each without an id, 20 and 80 of them converting; four by the third link.
        var events = new List<RawPageEvent>();
        for (int i = 0; i < 400; i++)
        {
            events.AddRange(Visit(lake, i, Guid.NewGuid(), false, i % 20 == 0));
            events.AddRange(Visit(lamps, i, Guid.NewGuid(), false, i % 5 == 0));
        }

        for (int i = 0; i < 4; i++)
        {
            events.AddRange(Visit(mail, i, Guid.NewGuid(), false, false));
        }

        await KeepAsync([.. events]);
        var answer = await Host.GetJsonAsync("/api/v1/variant-tests");
        var test = Assert.Single(answer["tests"]!.AsArray())!;
        Assert.Equal(
            ("Lantern Nights", "Gate poster", $"{BeaconHost.GardenHost}/visit", "visits"),
            (test.Text("campaign"), test.Text("placement"), test.Text("page"), test.Text("unit"))
        );
        var byName = test["variants"]!.AsArray().ToDictionary(v => v!.Text("name"), v => v!);
        Assert.Equal((400, 20), (byName["lake"].Whole("trials"), byName["lake"].Whole("converted")));
        Assert.Equal((400, 80), (byName["lamps"].Whole("trials"), byName["lamps"].Whole("converted")));
        Assert.Equal(0.05, byName["lake"]["rate"]!.GetValue<double>(), 12);
        Assert.Equal(["utm_medium"], byName["mailed"]["alsoDiffersIn"]!.AsArray().Select(k => k!.GetValue<string>()));
        Assert.Empty(byName["lake"]["alsoDiffersIn"]!.AsArray());

        // The few by the third link keep nobody from telling the others apart.
        Assert.Equal("clear", test.Text("outcome"));
        Assert.StartsWith("“lamps” converts better: by ", test.Text("says"), StringComparison.Ordinal);
        Assert.Equal("lamps", test["variants"]![test.Whole("best")]!.Text("name"));
    }

    /// <summary>Whoever carries an id counts once, for the variant seen first, whenever and by whichever variant they convert.</summary>
    [Fact]
    public async Task A_visitor_with_an_id_counts_once_for_the_variant_seen_first()
    {
        using var client = Host.As("editor");
        var lake = await MakeAsync(client, "lake");
        var lamps = await MakeAsync(client, "lamps");
        await Host.ScalarAsync<int>(
            "with l as (update links set created_at = now() - interval '60 days' returning 1) select count(*)::int from l"
        );
        Guid first = Guid.NewGuid(),
            second = Guid.NewGuid();
        await KeepAsync([
            .. Visit(lake, 1, first, true, false),
            .. Visit(lamps, 30, first, true, true),
            .. Visit(lamps, 60, first, true, false),
            .. Visit(lamps, 2, second, true, false),
        ]);
        var test = Assert.Single((await Host.GetJsonAsync("/api/v1/variant-tests"))["tests"]!.AsArray())!;
        Assert.Equal(("visitors", "tooFew"), (test.Text("unit"), test.Text("outcome")));
        Assert.Equal(
            ["lake 1 1", "lamps 1 0"],
            test["variants"]!
                .AsArray()
                .Select(v => $"{v!.Text("name")} {v!.Whole("trials")} {v!.Whole("converted")}")
                .Order(StringComparer.Ordinal)
        );
    }
}

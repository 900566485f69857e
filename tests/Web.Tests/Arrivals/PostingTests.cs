using System.Text.Json.Nodes;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Arrivals;

/// <summary>What came of share texts in the first hour, day and week after they were posted.</summary>
[Collection(nameof(DemoHost))]
public sealed class PostingTests(DemoHost demo)
{
    private const string Ever = "from=2018-01-01";

    [Fact]
    public async Task A_postings_visits_are_those_of_the_spans_after_it()
    {
        var answer = await demo.Host.GetJsonAsync($"/api/v1/arrivals/postings?{Ever}");
        var postings = answer["postings"]!.AsArray();
        Assert.True(postings.Count > 5);

        // Counted a second way: one by one, from the raw visits and conversions.
        await using var command = demo.Host.Database.CreateCommand(
            """
            select l.id, count(v.id) filter (where v.started_at - l.placed_at < interval '60 minutes'),
                count(v.id) filter (where v.started_at - l.placed_at < interval '24 hours'), count(v.id),
                (select count(*) from conversion c where c.link_id = l.id and c.at - l.placed_at between interval '0' and interval '168 hours')
            from links l left join visit v on v.link_id = l.id and v.started_at - l.placed_at >= interval '0' and v.started_at - l.placed_at < interval '168 hours'
            where l.placed_at is not null group by l.id
            """
        );
        var counted = new Dictionary<string, (long, long, long, long)>();
        await using var reader = await command.ExecuteReaderAsync();
        while (await reader.ReadAsync())
        {
            counted[reader.GetGuid(0).ToString()] = (reader.GetInt64(1), reader.GetInt64(2), reader.GetInt64(3), reader.GetInt64(4));
        }

        foreach (var posting in postings)
        {
            var visits = posting!["visits"];
            Assert.Equal(
                counted[posting.Text("linkId")],
                (visits.Whole("hour"), visits.Whole("day"), visits.Whole("week"), posting["conversions"].Whole("week"))
            );
        }

        Assert.Contains(postings, p => p!["visits"].Whole("week") > 0);
        long day = postings.Where(p => p.Whole("hours") >= 24).Sum(p => p!["visits"].Whole("day"));
        foreach (string by in new[] { "placements", "weekdays", "hours" })
        {
            Assert.Equal(day, answer[by]!.AsArray().Sum(g => g.Whole("visits")));
        }

        Assert.Equal("false", answer["more"]!.ToJsonString());
        Assert.Equal((7, 24), (answer["weekdays"]!.AsArray().Count, answer["hours"]!.AsArray().Count));
    }

    [Fact]
    public async Task Postings_are_narrowed_by_campaign_and_placement_and_say_what_does_not_narrow_them()
    {
        string placement = (await demo.Host.GetJsonAsync($"/api/v1/arrivals/postings?{Ever}"))["postings"]!
            .AsArray()
            .First(p => p!["placement"] is not null)
            .Text("placement");
        var answer = await demo.Host.GetJsonAsync(
            $"/api/v1/arrivals/postings?{Ever}&where=placement:is:{Uri.EscapeDataString(placement)}&where=country:is:IE"
        );
        Assert.All(answer["postings"]!.AsArray(), p => Assert.Equal(placement, p.Text("placement")));
        Assert.Equal(["country"], answer["ignored"]!.AsArray().Select(i => i!.GetValue<string>()));
        JsonNode none = await demo.Host.GetJsonAsync($"/api/v1/arrivals/postings?{Ever}&where=campaign:is:nothing_like_it");
        Assert.Empty(none["postings"]!.AsArray());
        Assert.Null(none["bestHour"]);
    }
}

using System.Text.Json.Nodes;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.WebTests.Hosting;
using PreciseBeacon.WebTests.Traffic;

namespace PreciseBeacon.WebTests.Proofs;

/// <summary>Planted gaps, each with its cause, found again: every link has its own page, clicks and visits.</summary>
public sealed class ClickGapTests : PlantedGapBase
{
    private async Task<Dictionary<Guid, JsonNode>> GapsAsync() =>
        (await Host.GetJsonAsync("/api/v1/click-gaps"))["links"]!.AsArray().ToDictionary(l => Guid.Parse(l!.Text("linkId")), l => l!);

    private static string Said(JsonNode gap) =>
        $"{gap.Whole("expected")} {gap.Whole("measured")} {gap.Text("verdict")}: {string.Join(", ", gap["causes"]!.AsArray().Select(c => $"{c!.Text("kind")} {c.Whole("visits")}"))}";

    [Fact]
    public async Task Each_planted_gap_is_found_with_the_right_cause_first()
    {
        using var client = Host.As("editor");
        var (quiet, ordinary, lost, dead, programs, pasted) = (
            await MakeAsync(client, "/quiet"),
            await MakeAsync(client, "/ordinary"),
            await MakeAsync(client, "/lost"),
            await MakeAsync(client, "/dead"),
            await MakeAsync(client, "/programs"),
            await MakeAsync(client, "/pasted")
        );
        await Host.ScalarAsync<int>(
            "with l as (update links set created_at = now() - interval '60 days' returning 1) select count(*)::int from l"
        );
        var raw = new RawEvents();
        for (int i = 0; i < 100; i++)
        {
            Click(raw, quiet, i, i < 8 ? null : quiet.Url);
            Click(raw, ordinary, i, i < 15 ? null : ordinary.Url);
            Click(raw, lost, i, i < 40 ? $"http://{BeaconHost.GardenHost}/elsewhere" : lost.Url); // a redirect lost the tags
            Click(raw, dead, i, null); // no script there
            Click(raw, programs, i, i < 40 ? null : programs.Url, i < 40 ? "Mozilla/5.0 (Computer) Sieve/3.1" : Person);
            Click(raw, pasted, i, i < 40 ? null : pasted.Url, code: true, referrer: i < 40 ? "https://mail.nattervine.example/" : "");
        }

        // A second click of the same person within the half hour is no second visit; one with its tags but no click stands apart.
        var again = raw.Hits[0];
        raw.Hits.Add(again with { Id = Guid.CreateVersion7(), At = again.At.AddMinutes(20) });
        raw.PageEvents.Add(View("2026-06-01T10:00", "", Guid.NewGuid()) with { At = Begin.AddMinutes(500), Url = quiet.Url });

        // Somebody with an id who clicks on another day's hash while a visit with the same tags goes on is missing nowhere.
        var person = Guid.NewGuid();
        foreach (int minute in new[] { 600, 610 })
        {
            Click(raw, quiet, minute, quiet.Url);
            raw.PageEvents[^1] = raw.PageEvents[^1] with { Visitor = person, DayVisitor = raw.PageEvents[^1].Visitor, HasId = true };
        }
        await new SpoolDrain(Host.Database).WriteStraightAsync(raw, CancellationToken.None);
        await WorkOutAsync();

        var gaps = await GapsAsync();
        Assert.Equal("102 94 quiet: blocked 8", Said(gaps[quiet.Id]));
        Assert.Equal(1, gaps[quiet.Id].Whole("withoutClick"));
        Assert.Equal("100 85 ordinary: blocked 15", Said(gaps[ordinary.Id]));
        Assert.Equal("100 60 finding: tagsLost 40", Said(gaps[lost.Id]));
        Assert.Equal("100 0 finding: notMeasured 100", Said(gaps[dead.Id]));
        Assert.Equal("100 60 finding: programs 40", Said(gaps[programs.Id]));
        Assert.Equal("100 60 finding: reused 40, blocked 40", Said(gaps[pasted.Id]));

        // A trial of the page that nothing was measured on says that it does not answer.
        await client.DoAsync(HttpMethod.Post, "/api/v1/trials", new { linkId = dead.Id });
        gaps = await GapsAsync();
        Assert.Equal("100 0 finding: pageBroken 100", Said(gaps[dead.Id]));
        var answer = await Host.GetJsonAsync("/api/v1/click-gaps");
        Assert.Equal((4, 1, 1, 0), (answer.Whole("findings"), answer.Whole("ordinary"), answer.Whole("quiet"), answer.Whole("tooFew")));
    }

    [Fact]
    public async Task What_is_younger_than_two_days_says_so_and_few_clicks_say_nothing()
    {
        using var client = Host.As("editor");
        var link = await MakeAsync(client, "/young");
        var raw = new RawEvents();
        int now = (int)(DateTimeOffset.UtcNow - Begin).TotalMinutes;
        for (int i = 0; i < 49; i++)
        {
            Click(raw, link, now - 300 - i, null);
        }

        await new SpoolDrain(Host.Database).WriteStraightAsync(raw, CancellationToken.None);
        await WorkOutAsync();
        Assert.Equal("49 0 tooFew: new 49", Said((await GapsAsync())[link.Id]));
    }
}

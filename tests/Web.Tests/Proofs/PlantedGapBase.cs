using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.WebTests.Hosting;
using PreciseBeacon.WebTests.Traffic;

namespace PreciseBeacon.WebTests.Proofs;

/// <summary>Plants clicks and visits of links that each have their own page.</summary>
public abstract class PlantedGapBase : WorkingOutBase
{
    protected const string Person = "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1";

    /// <summary>Ten days ago.</summary>
    protected static readonly DateTimeOffset Begin = new(DateTime.UtcNow.Date.AddDays(-10), TimeSpan.Zero);

    /// <summary>A link with a page of its own, and its two short links.</summary>
    protected sealed record Planted(Guid Id, string Url, Guid Text, Guid Code);

    /// <summary>Makes a link to a page.</summary>
    protected async Task<Planted> MakeAsync(HttpClient client, string page)
    {
        var link = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/links",
            new
            {
                destination = $"http://{BeaconHost.GardenHost}{page}",
                campaign = "Lantern Nights",
                placement = "Gate poster",
                fields = new { utm_content = "gap" },
            }
        );
        var id = Guid.Parse(link.Text("id"));
        return new Planted(
            id,
            link["link"]!.Text("url"),
            await Host.ScalarAsync<Guid>("select id from short_links where link_id = $1 and use = 'Text'", id),
            await Host.ScalarAsync<Guid>("select id from short_links where link_id = $1 and use = 'Code'", id)
        );
    }

    /// <summary>
    /// Links with 100 clicks each, and of their visits: 8, 15 and 40 % too few (the last with its tags lost), none (no script), 40 opened by
    /// a program, 40 from the mail a printed link was reused in, and 40 by a crawler.
    /// </summary>
    protected async Task<(
        Planted Quiet,
        Planted Ordinary,
        Planted Lost,
        Planted Dead,
        Planted Programs,
        Planted Pasted,
        Planted Crawled
    )> PlantAsync(HttpClient client)
    {
        var (quiet, ordinary, lost, dead, programs, pasted, crawled) = (
            await MakeAsync(client, "/quiet"),
            await MakeAsync(client, "/ordinary"),
            await MakeAsync(client, "/lost"),
            await MakeAsync(client, "/dead"),
            await MakeAsync(client, "/programs"),
            await MakeAsync(client, "/pasted"),
            await MakeAsync(client, "/crawled")
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
            Click(raw, crawled, i, i < 40 ? null : crawled.Url, i < 40 ? "sedge-client/1.4" : Person);
        }

        await WriteAsync(raw);
        return (quiet, ordinary, lost, dead, programs, pasted, crawled);
    }

    /// <summary>Keeps events of links that are no new ones, and works them out.</summary>
    protected async Task WriteAsync(RawEvents raw)
    {
        await Host.ScalarAsync<int>(
            "with l as (update links set created_at = now() - interval '60 days' returning 1) select count(*)::int from l"
        );
        await new SpoolDrain(Host.Database).WriteStraightAsync(raw, CancellationToken.None);
        await WorkOutAsync();
    }

    /// <summary>A hit of somebody new, and the page seen right after it where one is given.</summary>
    protected void Click(
        RawEvents into,
        Planted link,
        int minute,
        string? seen,
        string agent = Person,
        bool code = false,
        string referrer = ""
    )
    {
        var visitor = Guid.NewGuid();
        var at = Begin.AddMinutes(minute);
        into.Hits.Add(
            new RawHit(
                Guid.CreateVersion7(at),
                Workspace,
                at,
                code ? link.Code : link.Text,
                visitor,
                null,
                HitFlags.None,
                agent,
                referrer,
                PageKey: PageKey.OfAddress(link.Url)
            )
        );
        if (seen is not null)
        {
            into.PageEvents.Add(View("2026-06-01T10:00", "", visitor) with { At = at.AddSeconds(2), Url = seen, UserAgent = agent });
        }
    }
}

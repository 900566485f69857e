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

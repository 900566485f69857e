using System.Net;
using System.Text;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Accounts;

/// <summary>Ids of one workspace's things, used from another: for every call that takes one there is no such thing, and nothing changes.</summary>
public sealed class OtherWorkspaceTests
{
    [Fact]
    public async Task Every_call_that_names_a_thing_finds_nothing_of_another_workspace()
    {
        await using var host = await BeaconHost.StartAsync();
        await Belongings.MakeAsync(host);
        using var other = host.Client(await OtherWorkspace.MakeAsync(host));
        var description = new ApiDescription();
        var calls = description.Operations.Where(o => o.Path.Contains("{id", StringComparison.Ordinal)).ToList();
        Assert.True(calls.Count > 60);
        string before = await StateAsync(host);
        var found = new List<string>();
        foreach (var call in calls)
        {
            string path = await Belongings.PathAsync(host, call);
            using var request = new HttpRequestMessage(call.Method, path);
            request.Content =
                call.Method == HttpMethod.Get || call.Method == HttpMethod.Delete
                    ? null
                    : new StringContent(description.Sample(call.Body)?.ToJsonString() ?? "{}", Encoding.UTF8, "application/json");
            using var answer = await other.SendAsync(request);

            // What is wrong with the request itself may be said first.
            if (answer.StatusCode is not (HttpStatusCode.NotFound or HttpStatusCode.BadRequest or HttpStatusCode.UnprocessableEntity))
            {
                found.Add($"{call}: {(int)answer.StatusCode} {await answer.Content.ReadAsStringAsync()}");
            }
        }

        Assert.True(found.Count == 0, string.Join('\n', found));
        Assert.Equal(before, await StateAsync(host));

        // Things named inside a request are not found either.
        var link = await host.ScalarAsync<Guid>("select link_id from short_links limit 1");
        var campaign = await host.ScalarAsync<Guid>("select id from campaigns limit 1");
        var placement = await host.ScalarAsync<Guid>("select id from placements limit 1");
        Assert.Equal(
            0,
            (await other.DoAsync(HttpMethod.Post, "/api/v1/links/bulk", new { links = new[] { link }, retire = true })).Whole("changed")
        );
        Assert.Equal(
            "codes-none",
            (
                await other.CallAsync(
                    HttpMethod.Post,
                    "/api/v1/codes/sheet.pdf",
                    new { links = new[] { link }, sheet = new { columns = 2, rows = 2 } }
                )
            )
                .Json.Refusal()
                .Rule
        );
        Assert.Equal(
            0,
            (await other.DoAsync(HttpMethod.Get, $"/api/v1/links?campaign={campaign}&placement={placement}&state=all")).Whole("total")
        );
        Assert.Equal(
            "partner-page-refused",
            (await other.CallAsync(HttpMethod.Post, "/api/v1/partner-pages", new { name = "Mine", placements = new[] { placement } }))
                .Json.Refusal()
                .Rule
        );
        Assert.Equal(before, await StateAsync(host));
    }

    private static Task<string> StateAsync(BeaconHost host) =>
        host.ScalarAsync<string>(
            """
            select concat_ws(' ',
                (select md5(string_agg(l::text, '' order by id)) from links l), (select md5(string_agg(s::text, '' order by id)) from short_links s),
                (select md5(string_agg(c::text, '' order by id)) from campaigns c), (select md5(string_agg(p::text, '' order by id)) from placements p),
                (select md5(string_agg(b::text, '' order by id)) from batches b), (select md5(string_agg(m::text, '' order by id)) from mails m),
                (select count(*) from code_logos), (select count(*) from site_pages), (select count(*) from refused_hosts), (select count(*) from approved_hosts where approved),
                (select count(*) from saved_recipes), (select count(*) from placement_sets), (select count(*) from result_pages), (select count(*) from partner_pages where revoked_at is null),
                (select count(*) from api_keys where revoked_at is null and name <> 'other workspace'), (select count(*) from short_domains))
            """
        );
}

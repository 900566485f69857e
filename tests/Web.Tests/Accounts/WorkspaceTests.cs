using System.Net;
using System.Net.Http.Json;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Accounts;

[Collection(nameof(DemoHost))]
public sealed class WorkspaceTests(DemoHost demo)
{
    private const string OtherKey = "another-workspaces-owner";

    /// <summary>A second workspace that has everything the first one has.</summary>
    private async Task MakeOtherAsync()
    {
        await using var command = demo.Host.Database.CreateCommand(
            """
            with w as (insert into workspaces (id, name, currency, time_zone, existing_tags, live_placeholders, plus_for_space, is_demo, created_at)
                values (gen_random_uuid(), 'Other garden', 'EUR', 'UTC', 'Replace', 'None', false, true, now()) returning id),
            k as (insert into api_keys (id, workspace_id, name, role, hash, demo_only, created_at)
                select gen_random_uuid(), id, 'other', 'Owner', $1, true, now() from w),
            v as (insert into convention_versions (id, workspace_id, number, published_at) select gen_random_uuid(), id, 1, now() from w returning id, workspace_id)
            insert into field_row (id, workspace_id, convention_version_id, position, key, label, presence, "case", space, characters, outside, transliterate, longest_value, has_word_list, closed_list, holds_numbers, also_read)
                select gen_random_uuid(), workspace_id, id, 0, 'utm_source', 'Source', 'Offered', 'Lower', 'Underscore', 'Anything', 'Remove', false, 200, false, false, false, '{}' from v
            """);
        command.Parameters.Add(new() { Value = PreciseBeacon.Web.Accounts.ApiKeyHandler.HashOf(OtherKey) });
        await command.ExecuteNonQueryAsync();
    }

    [Fact]
    public async Task Nothing_of_one_workspace_is_seen_or_changed_from_another()
    {
        await MakeOtherAsync();
        var link = await demo.Host.SaveLinkAsync("https://stranger.example/tickets");
        var host = await demo.Host.ScalarAsync<Guid>("select id from approved_hosts where host = 'stranger.example'");
        using var other = demo.Host.Client(OtherKey);

        foreach (string path in new[] { "", "/code.svg", "/code.png" })
        {
            Assert.Equal(HttpStatusCode.NotFound, (await other.GetAsync($"/api/v1/links/{link["id"]}{path}")).StatusCode);
        }

        Assert.Equal(HttpStatusCode.NotFound, (await other.PostAsync($"/api/v1/hosts/{host}/approve", null)).StatusCode);
        Assert.False(await demo.Host.ScalarAsync<bool>("select approved from approved_hosts where id = $1", host));
        Assert.Contains("\"total\":0", await other.GetStringAsync("/api/v1/links"), StringComparison.Ordinal);
        Assert.Equal("[]", await other.GetStringAsync("/api/v1/campaigns"));
        Assert.Equal("[]", await other.GetStringAsync("/api/v1/placements"));
        Assert.Equal("[]", await other.GetStringAsync("/api/v1/hosts"));
        Assert.Contains("\"rows\":[]", await other.GetStringAsync("/api/v1/arrivals?from=2026-01-01"), StringComparison.Ordinal);

        // Naming another workspace's campaign by its id finds nothing either.
        var campaign = await demo.Host.ScalarAsync<Guid>("select id from campaigns limit 1");
        using var composed = await other.PostAsJsonAsync("/api/v1/links/compose", new { destination = "https://stranger.example", campaign = campaign.ToString() });
        Assert.Contains("campaign-unknown", await composed.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }
}

using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Ledger;

/// <summary>The states that SQL filters and groups by are those of the one rule in the core, over every combination.</summary>
[Collection(nameof(DemoHost))]
public sealed class LinkStateTests(DemoHost demo)
{
    [Fact]
    public async Task Sql_and_the_rule_agree_on_every_combination()
    {
        using var client = demo.Host.As("editor");
        var now = DateTimeOffset.UtcNow;
        var combinations = (
            from retired in new[] { false, true }
            from shortened in new[] { false, true }
            from waiting in new[] { false, true }
            from paused in new[] { false, true }
            from ends in new DateTimeOffset?[] { null, now.AddHours(-1), now.AddHours(1) }
            from left in new int?[] { null, 0, 2 }
            select (retired, shortened, waiting, paused, ends, left)
        ).ToList();
        string mark = $"s{Guid.NewGuid():N}"[..10];
        var made = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/links/many",
            new
            {
                links = combinations.Select(
                    (c, i) =>
                        new
                        {
                            destination = $"http://{BeaconHost.GardenHost}/visit",
                            placement = "Gate poster",
                            campaign = "Seed Swap",
                            fields = new { utm_content = $"{mark}{i}" },
                            title = $"{mark} {i}",
                            shorten = c.shortened,
                        }
                ),
            }
        );
        var ids = made["links"]!.AsArray().Select(l => Guid.Parse(l!["saved"]!.Text("id"))).ToList();
        for (int i = 0; i < ids.Count; i++)
        {
            var (retired, _, waiting, paused, ends, left) = combinations[i];
            await using var set = demo.Host.Database.CreateCommand(
                "update links set retired_at = $2, is_waiting = $3, paused = $4, ends_at = $5, most_uses = $6, uses_left = $6 where id = $1"
            );
            set.Parameters.Add(new() { Value = ids[i] });
            set.Parameters.Add(new() { Value = retired ? now : DBNull.Value, NpgsqlDbType = NpgsqlTypes.NpgsqlDbType.TimestampTz });
            set.Parameters.Add(new() { Value = waiting });
            set.Parameters.Add(new() { Value = paused });
            set.Parameters.Add(new() { Value = (object?)ends ?? DBNull.Value, NpgsqlDbType = NpgsqlTypes.NpgsqlDbType.TimestampTz });
            set.Parameters.Add(new() { Value = (object?)left ?? DBNull.Value, NpgsqlDbType = NpgsqlTypes.NpgsqlDbType.Integer });
            await set.ExecuteNonQueryAsync();
        }

        var groups = (await demo.Host.GetJsonAsync($"/api/v1/links/groups?by=state&search={mark}&state=all"))
            .AsArray()
            .ToDictionary(g => g.Text("key"), g => g.Whole("links"));
        foreach (var state in Enum.GetValues<LinkState>())
        {
            string name = state.ToString().ToLowerInvariant();
            var due = combinations
                .Zip(ids)
                .Where(c =>
                    LinkStates.Of(c.First.retired, c.First.shortened, c.First.waiting, c.First.paused, c.First.ends, c.First.left, now)
                    == state
                )
                .Select(c => c.Second.ToString())
                .Order()
                .ToList();
            var rows = (await demo.Host.GetJsonAsync($"/api/v1/links?search={mark}&state={name}&size=200"))["links"]!.AsArray();
            Assert.NotEmpty(due);
            Assert.Equal(due, rows.Select(r => r.Text("id")).Order());
            Assert.All(rows, r => Assert.Equal(name, r.Text("state")));
            Assert.Equal(due.Count, groups[name]);
        }
    }
}

using System.Net;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Audit;

/// <summary>Who changed what: complete, page by page, and for owners alone.</summary>
public sealed class AuditTests : IAsyncLifetime
{
    private BeaconHost _host = null!;
    private HttpClient _owner = null!;

    public async Task InitializeAsync()
    {
        _host = await BeaconHost.StartAsync(visits: 0);
        _owner = _host.As("owner");
    }

    public async Task DisposeAsync()
    {
        _owner.Dispose();
        await _host.DisposeAsync();
    }

    [Fact]
    public async Task Every_change_is_there_once_with_before_and_after()
    {
        var site = (await _owner.DoAsync(HttpMethod.Get, "/api/v1/sites"))[0]!;
        for (int limit = 1; limit <= 120; limit++)
        {
            await _owner.DoAsync(HttpMethod.Put, $"/api/v1/sites/{site.Text("id")}", new { largestValue = limit });
        }

        var seen = new List<decimal>();
        for (string? next = ""; next is not null; )
        {
            var page = await _owner.DoAsync(
                HttpMethod.Get,
                $"/api/v1/changes?what=site&size=50{(next.Length == 0 ? "" : "&olderThan=" + next)}"
            );
            seen.AddRange(page["changes"]!.AsArray().Select(c => c!["after"]!["largestValue"]!.GetValue<decimal>()));
            Assert.Equal(next.Length == 0, page["kinds"]!.AsArray().Any(k => k!.GetValue<string>() == "site"));
            next = page["next"]?.GetValue<string>();
        }

        Assert.Equal(Enumerable.Range(1, 120).Reverse().Select(i => (decimal)i), seen);
        var newest = (await _owner.DoAsync(HttpMethod.Get, $"/api/v1/changes?thing={site.Text("id")}&size=1"))["changes"]![0]!;
        Assert.Equal(119, newest["before"]!["largestValue"]!.GetValue<decimal>());
        string today = DateTime.UtcNow.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
        Assert.Empty((await _owner.DoAsync(HttpMethod.Get, "/api/v1/changes?to=2020-01-01"))["changes"]!.AsArray());
        Assert.Empty((await _owner.DoAsync(HttpMethod.Get, "/api/v1/changes?who=nobody"))["changes"]!.AsArray());
        Assert.NotEmpty(
            (
                await _owner.DoAsync(
                    HttpMethod.Get,
                    $"/api/v1/changes?from=2020-01-01&to=2099-01-01&who={Uri.EscapeDataString(newest.Text("who"))}"
                )
            )["changes"]!.AsArray()
        );
        string csv = await _owner.GetStringAsync("/api/v1/changes.csv?what=site");
        Assert.Equal(121, csv.Split('\n', StringSplitOptions.RemoveEmptyEntries).Length);
        Assert.Equal(
            "range-refused",
            (await _owner.CallAsync(HttpMethod.Get, $"/api/v1/changes?from={today}&to=2020-01-01")).Json.Refusal().Rule
        );
        using var editor = _host.As("editor");
        Assert.Equal(HttpStatusCode.Forbidden, (await editor.CallAsync(HttpMethod.Get, "/api/v1/changes")).Status);
        Assert.Equal(HttpStatusCode.Forbidden, (await editor.CallAsync(HttpMethod.Get, "/api/v1/changes.csv")).Status);
    }
}

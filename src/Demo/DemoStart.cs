using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Options;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Start;

namespace PreciseBeacon.Demo;

/// <summary>The demo as the application knows it.</summary>
internal sealed class DemoStart(IOptions<DemoOptions> options) : IStartData
{
    public IReadOnlyList<StartPerson> People => DemoPeople.All;

    public IReadOnlyList<string> Hosts => [options.Value.DemoSiteHost, options.Value.DemoOrchardHost, .. options.Value.StandInHosts];

    public string? InboxUrl => options.Value.InboxUrl;

    public Task<int> LoadAsync(IServiceProvider services, CancellationToken cancel) =>
        services.GetRequiredService<DemoData>().LoadAsync(cancel);

    public Task<bool> IsWholeAsync(BeaconDb db, CancellationToken cancel) =>
        db.ChangeLog.IgnoreQueryFilters().AnyAsync(c => c.What == DemoData.LoadedMark, cancel);

    public Task FollowAsync(IServiceProvider services, CancellationToken cancel) =>
        services.GetRequiredService<DemoData>().FollowPortsAsync(cancel);
}

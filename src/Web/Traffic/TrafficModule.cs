using System.Security.Cryptography;
using Microsoft.Extensions.Options;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Traffic;

/// <summary>Hits and page events on their way from the door to the figures.</summary>
public static class TrafficModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddSingleton(new EventIds(BitConverter.ToInt64(RandomNumberGenerator.GetBytes(sizeof(long)))));
        services.AddSingleton(s => new Countries(
            s.GetRequiredService<IOptions<BeaconOptions>>().Value.CountryFile ?? Path.Combine(AppContext.BaseDirectory, "countries.mmdb")
        ));
        services.AddSingleton<TownPoints>();
        services.AddSingleton<SaltBook>();
        services.AddSingleton<EventRecorder>();
        services.AddSingleton<SpoolDrain>();
        services.AddSingleton<WorkSignal>();
        services.AddSingleton<LiveTraffic>();
        services.AddSingleton<ClickAggregator>();
        services.AddSingleton<VisitAggregator>();
        services.AddSingleton<VisitSegmentBuilder>();
        services.AddSingleton<Retention>();
        services.AddSingleton<NewTagKeys>();
        services.AddSingleton<UseCounter>();
        services.AddSingleton<SpoolWorker>();
        services.AddHostedService(s => s.GetRequiredService<SpoolWorker>());
        services.AddHostedService<AggregationWorker>();
        services.AddHostedService<PackingWorker>();
        services.AddHostedService<TrafficFeed>();
        services.AddHostedService<RetentionWorker>();
        services.AddHostedService<NewKeyWorker>();
        services.AddHostedService<SaltKeeper>();
        services.AddHostedService<TownPointWorker>();
    }
}

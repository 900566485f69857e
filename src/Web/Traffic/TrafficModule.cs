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
        services.AddSingleton(s => new Countries(s.GetRequiredService<IOptions<BeaconOptions>>().Value.CountryFile ?? Path.Combine(AppContext.BaseDirectory, "countries.mmdb")));
        services.AddSingleton<SaltBook>();
        services.AddSingleton<EventKeeper>();
        services.AddSingleton<EventMover>();
        services.AddSingleton<WorkSignal>();
        services.AddSingleton<ClickWorkOut>();
        services.AddSingleton<VisitWorkOut>();
        services.AddSingleton<UseCounter>();
        services.AddSingleton<SpoolHost>();
        services.AddHostedService(s => s.GetRequiredService<SpoolHost>());
        services.AddHostedService<WorkOutHost>();
        services.AddHostedService<SaltKeeper>();
    }
}

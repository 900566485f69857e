using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data.ShortLinks;

namespace PreciseBeacon.Web.Redirects;

/// <summary>Short domains: every slug in memory, and what is answered where there is none.</summary>
public static class RedirectsModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddSingleton<SlugTable>();
        services.AddSingleton<IKnownSlugs>(s => s.GetRequiredService<SlugTable>());
        services.AddSingleton<GuessThrottle>();
        services.AddSingleton<WorkspacePage>();
        services.AddSingleton<Redirector>();
        services.AddSingleton<ShortDomainPages>();
        services.AddSingleton<SlugFeed>();
        services.AddHostedService(s => s.GetRequiredService<SlugFeed>());
        services.AddScoped<WherePage>();
    }
}

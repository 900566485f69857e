using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Measuring;

/// <summary>One's own sites, and what their pages report.</summary>
public static class MeasuringModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddSingleton<SiteTable>();
        services.AddHostedService(s => s.GetRequiredService<SiteTable>());
        services.AddSingleton<IReadiness>(s => s.GetRequiredService<SiteTable>());
        services.AddSingleton<ReportThrottle>();
        services.AddSingleton<PassingVisits>();
        services.AddScoped<PassingHostList>();
        services.AddScoped<SiteStore>();
    }

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapMeasuring();
        app.MapMeasuringScript();
        app.MapSites();
        app.MapPassingHosts();
        app.MapRetention();
    }
}

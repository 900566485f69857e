using PreciseBeacon.Data.Traffic;

namespace PreciseBeacon.Web.Measuring;

/// <summary>What pages of the sites report.</summary>
public static class MeasuringModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddSingleton<SiteTable>();
        services.AddHostedService(s => s.GetRequiredService<SiteTable>());
        services.AddSingleton<ReportThrottle>();
        services.AddSingleton<PassingVisits>();
        services.AddScoped<PassingHostList>();
    }

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapMeasuring();
        app.MapPassingHosts();
        app.MapRetention();
    }
}

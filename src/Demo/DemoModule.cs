using Microsoft.Extensions.Configuration;
using Microsoft.Extensions.DependencyInjection;
using PreciseBeacon.Data.Start;

namespace PreciseBeacon.Demo;

/// <summary>The demo: the only thing the application is told of it is how it registers itself.</summary>
public static class DemoModule
{
    /// <summary>Registers the demo as the data an empty database may be filled with.</summary>
    public static void Add(IServiceCollection services, IConfiguration settings)
    {
        services.Configure<DemoOptions>(settings.GetSection(DemoOptions.Section));
        services.AddScoped<DemoData>();
        services.AddScoped<DemoFigures>();
        services.AddSingleton<IStartData, DemoStart>();
    }
}

using PreciseBeacon.Data.Conventions;

namespace PreciseBeacon.Web.Conventions;

/// <summary>The convention: its draft, its versions and what a change would do.</summary>
public static class ConventionsModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddSingleton<ConventionReader.Remembered>();
        services.AddScoped<ConventionReader>();
        services.AddScoped<ConventionStore>();
        services.AddScoped<EffectCounter>();
    }

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapConventions();
    }
}

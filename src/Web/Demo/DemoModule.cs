namespace PreciseBeacon.Web.Demo;

/// <summary>The demo's data.</summary>
public static class DemoModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddScoped<DemoData>();
    }
}

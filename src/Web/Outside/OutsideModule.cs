namespace PreciseBeacon.Web.Outside;

/// <summary>Pages of other servers, fetched with care.</summary>
public static class OutsideModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddSingleton<OutsideReader>();
        services.AddScoped<SitemapReader>();
        services.AddSingleton<PageTracer>();
    }
}

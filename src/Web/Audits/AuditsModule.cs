namespace PreciseBeacon.Web.Audits;

/// <summary>Reviews of links in use.</summary>
public static class AuditsModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddScoped<AuditStore>();
        services.AddScoped<SiteLinks>();
    }

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapAudits();
    }
}

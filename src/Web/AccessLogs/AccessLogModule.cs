namespace PreciseBeacon.Web.AccessLogs;

/// <summary>Access logs of the sites' servers, read into visits.</summary>
public static class AccessLogModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddSingleton<AccessLogStore>();
        services.AddSingleton<AccessLogWorker>();
        services.AddHostedService(s => s.GetRequiredService<AccessLogWorker>());
    }

    public static void Map(IEndpointRouteBuilder app) => app.MapAccessLogs();
}

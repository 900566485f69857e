namespace PreciseBeacon.Web.ResultsPages;

/// <summary>Pages of figures for people without an account.</summary>
public static class ResultsPagesModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddScoped<ResultPageStore>();
        services.AddScoped<SharedReport>();
    }

    public static void Map(IEndpointRouteBuilder app) => app.MapResultPages();
}

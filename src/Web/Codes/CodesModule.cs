namespace PreciseBeacon.Web.Codes;

/// <summary>QR codes and sheets of labels.</summary>
public static class CodesModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddScoped<CodeStore>();
    }

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapCodes();
    }
}

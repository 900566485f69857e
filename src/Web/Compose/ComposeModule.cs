using PreciseBeacon.Data.Links;

namespace PreciseBeacon.Web.Compose;

/// <summary>Links worked out, checked and made.</summary>
public static class ComposeModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddScoped<LinkInputsReader>();
        services.AddScoped<LinkComposition>();
        services.AddScoped<LinkEndings>();
        services.AddScoped<LinkWriter>();
    }

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapCompose();
    }
}

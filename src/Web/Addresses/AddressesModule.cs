namespace PreciseBeacon.Web.Addresses;

/// <summary>Short domains, refused hosts and how links are written.</summary>
public static class AddressesModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddScoped<ShortDomains>();
        services.AddScoped<RefusedHostList>();
    }

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapAddresses();
        app.MapLinkWriting();
    }
}

namespace PreciseBeacon.Web.Shorten;

/// <summary>Short links for other tools, by one address.</summary>
public static class ShortenModule
{
    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapShorten();
    }
}

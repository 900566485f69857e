namespace PreciseBeacon.Web.LinkReviews;

/// <summary>Reviews of links in use.</summary>
public static class LinkReviewsModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddScoped<LinkReviewStore>();
        services.AddScoped<SiteLinks>();
    }

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapLinkReviews();
    }
}

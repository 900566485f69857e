namespace PreciseBeacon.Web.Plan;

/// <summary>The plan: campaigns, placements, pages, share texts, partner pages, and finding any of it.</summary>
public static class PlanEndpoints
{
    public static void MapPlan(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Plan");
        CampaignEndpoints.MapCampaigns(group);
        PlacementEndpoints.MapPlacements(group);
        PageEndpoints.MapPages(group);
        PageTextEndpoints.MapPageTexts(group);
        PartnerPageEndpoints.MapPartnerPages(group);
        FindEndpoints.MapFind(group);
        app.MapHandOverPages();
    }
}

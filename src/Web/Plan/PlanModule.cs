using PreciseBeacon.Data.Traffic;

namespace PreciseBeacon.Web.Plan;

/// <summary>Campaigns, placements, pages and what partners are handed.</summary>
public static class PlanModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddScoped<CampaignStore>();
        services.AddScoped<PlannedLinks>();
        services.AddScoped<CampaignPage>();
        services.AddScoped<CampaignBudgets>();
        services.AddScoped<PlacementStore>();
        services.AddScoped<PlacementImport>();
        services.AddScoped<PageNames>();
        services.AddScoped<PageTexts>();
        services.AddScoped<PartnerPageStore>();
        services.AddSingleton<CampaignResultsReader>();
    }

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapPlan();
    }
}

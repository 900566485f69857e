using PreciseBeacon.Data.Reports;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>Reports of what arrived.</summary>
public static class ArrivalsModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddSingleton<TrafficSourceCache>();
        services.AddSingleton<PlanOfVisitsReader>();
        services.AddSingleton(new VisitSegmentCache());
        services.AddSingleton<VisitSegments>();
        services.AddSingleton<ArrivalsReader>();
        services.AddSingleton<VisitReader>();
        services.AddSingleton<PageFiguresReader>();
        services.AddSingleton<ProductReader>();
        services.AddSingleton<PathReader>();
        services.AddSingleton<SpotReader>();
        services.AddSingleton<StepReader>();
        services.AddScoped<CampaignComparison>();
        services.AddScoped<ArrivalsReport>();
        services.AddSingleton<PostingReader>();
        services.AddScoped<PostingReport>();
        services.AddScoped<SavedViewStore>();
        services.AddScoped<DayNoteStore>();
    }

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapArrivals();
        app.MapVisits();
        app.MapPageFigures();
        app.MapProducts();
        app.MapPaths();
        app.MapSpots();
        app.MapSteps();
        app.MapPostings();
        app.MapLive();
        app.MapDayNotes();
        app.MapSavedViews();
    }
}

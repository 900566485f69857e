using PreciseBeacon.Data.Proofs;

namespace PreciseBeacon.Web.Proofs;

/// <summary>Trying links before they go out, and finding what went wrong after.</summary>
public static class ProofsModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddSingleton<TrialBook>();
        services.AddSingleton<TrialLinkReader>();
        services.AddSingleton<TrialDoorTargets>();
        services.AddScoped<TrialStore>();
        services.AddSingleton<VariantReader>();
        services.AddSingleton<ClickGapReader>();
        services.AddSingleton<TraceFactsReader>();
        services.AddSingleton<PageCheckBook>();
        services.AddSingleton<PageLandings>();
        services.AddHostedService<PageCheckWorker>();
        services.AddSingleton<StrayReader>();
        services.AddSingleton<StrayBook>();
        services.AddSingleton<InsideTagReader>();
        services.AddScoped<StrayDraft>();
        services.AddSingleton<FindingBook>();
        services.AddSingleton<FigureBook>();
        services.AddSingleton<FigureNameBook>();
        services.AddSingleton<OtherClickReader>();
        services.AddSingleton<OwnFigureReader>();
        services.AddScoped<FigureTargetReader>();
        services.AddScoped<FigureEvidenceReader>();
        services.AddScoped<ReconcileReader>();
        services.AddScoped<FigureImporter>();
        services.AddScoped<FindingCollector>();
        services.AddHostedService<FindingWorker>();
    }

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapTrials();
        app.MapTrialDoor();
        app.MapVariantTests();
        app.MapClickGaps();
        app.MapPageChecks();
        app.MapStrays();
        app.MapFigures();
        app.MapFindings();
    }
}

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
        services.AddScoped<TrialStarter>();
        services.AddScoped<TrialStore>();
        services.AddScoped<MailTrialStore>();
        services.AddSingleton<VariantReader>();
        services.AddSingleton<ClickGapReader>();
        services.AddSingleton<TraceFactsReader>();
        services.AddSingleton<PageCheckBook>();
        services.AddSingleton<PageFindingMails>();
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
        services.AddSingleton<FigureTargetReader>();
        services.AddScoped<FigureEvidenceReader>();
        services.AddScoped<ReconcileReader>();
        services.AddScoped<FigureImporter>();
        services.AddScoped<FindingCollector>();
        services.AddHostedService<FindingWorker>();
    }

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapTrials();
        app.MapMailTrials();
        app.MapTrialDoor();
        app.MapVariantTests();
        app.MapClickGaps();
        app.MapPageChecks();
        app.MapStrays();
        app.MapFigures();
        app.MapFindings();
    }
}

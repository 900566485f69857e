using PreciseBeacon.Data.Links;
using PreciseBeacon.Data.Migrations;
using PreciseBeacon.Data.Traffic;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Every link there is, where it leads, and what came of it.</summary>
public static class LedgerModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddSingleton<LinkCountsReader>();
        services.AddScoped<LinkResults>();
        services.AddScoped<LinksOfVisits>();
        services.AddScoped<LedgerReader>();
        services.AddScoped<LedgerFiles>();
        services.AddScoped<BulkLinkChange>();
        services.AddScoped<LinkMetadataStore>();
        services.AddScoped<LinkHistory>();
        services.AddScoped<LinkGroups>();
        services.AddScoped<SlugImport>();
        services.AddScoped<SlugAdvice>();
        services.AddScoped<PendingLinks>();
        services.AddScoped<HostApproval>();
        services.AddScoped<LinkRoutes>();
        services.AddSingleton<LinkClicksReader>();
        services.AddSingleton<LinkVisitsReader>();
        services.AddHostedService<TotalsKeeper>();
    }

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapLedger();
        app.MapLedgerFiles();
        app.MapResults();
        app.MapSlugImport();
    }
}

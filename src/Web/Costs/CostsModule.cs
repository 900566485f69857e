using PreciseBeacon.Data.Costs;
using PreciseBeacon.Data.Imports;
using PreciseBeacon.Data.Reports;

namespace PreciseBeacon.Web.Costs;

/// <summary>What links cost: rates from a day on, and costs from files.</summary>
public static class CostsModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddSingleton<LinkCostReader>();
        services.AddSingleton<CostImports>();
        services.AddSingleton<NamedTargetReader>();
        services.AddScoped<CostRateStore>();
        services.AddScoped<CostImporter>();
    }

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapCostRates();
        app.MapCostImports();
    }
}

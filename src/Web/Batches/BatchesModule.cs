using PreciseBeacon.Data.Batches;

namespace PreciseBeacon.Web.Batches;

/// <summary>Many links at once, from sheets.</summary>
public static class BatchesModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddSingleton<BatchRows>();
        services.AddScoped<BatchComposer>();
        services.AddScoped<BatchStore>();
        services.AddScoped<RowEdits>();
        services.AddScoped<NextFile>();
        services.AddScoped<BatchRunner>();
        services.AddSingleton<BatchHost>();
        services.AddHostedService(s => s.GetRequiredService<BatchHost>());
    }

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapBatches();
        app.MapSampleFiles();
    }
}

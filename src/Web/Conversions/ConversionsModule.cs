using PreciseBeacon.Data.Traffic;

namespace PreciseBeacon.Web.Conversions;

/// <summary>What counts as a conversion.</summary>
public static class ConversionsModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddSingleton<DefinedConversions>();
        services.AddSingleton<ServerReports>();
        services.AddScoped<ServerReportBook>();
        services.AddScoped<ConversionKindStore>();
        services.AddHostedService<ConversionWorker>();
    }

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapConversionKinds();
        app.MapServerReports();
    }
}

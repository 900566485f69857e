using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Costs;

/// <summary>What placements and links cost from which day on.</summary>
public static class CostRateEndpoints
{
    public static void MapCostRates(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Costs");
        group
            .MapPut("/placements/{id:guid}/rates", SavePlacementAsync)
            .WithName("ChangePlacementRates")
            .WithSummary("Changes what a placement costs from which day on; what earlier days cost only where that is asked for.")
            .For(Caller.Builders);
        group
            .MapGet("/links/{id:guid}/rates", (Guid id, CostRateStore store, CancellationToken cancel) => store.OfLinkAsync(id, cancel))
            .WithName("ReadLinkRates")
            .WithSummary("Reads what a link costs from which day on.")
            .For(Caller.Readers);
        group
            .MapPut("/links/{id:guid}/rates", SaveLinkAsync)
            .WithName("ChangeLinkRates")
            .WithSummary("Changes what a link costs instead of what its placement does.")
            .For(Caller.Builders);
    }

    private static Task<Outcome<CostRatesAnswer>> SavePlacementAsync(
        Guid id,
        CostRatesRequest request,
        CostRateStore store,
        CancellationToken cancel,
        bool dry = false
    ) => store.SavePlacementAsync(id, request, dry, cancel);

    private static Task<Outcome<CostRatesAnswer>> SaveLinkAsync(
        Guid id,
        CostRatesRequest request,
        CostRateStore store,
        CancellationToken cancel,
        bool dry = false
    ) => store.SaveLinkAsync(id, request, dry, cancel);
}

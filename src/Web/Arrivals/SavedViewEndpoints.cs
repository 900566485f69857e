using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>Views of Arrivals kept under a name.</summary>
public static class SavedViewEndpoints
{
    public static void MapSavedViews(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/saved-views").WithTags("Arrivals");
        group.MapGet("", ListAsync).WithName("ListSavedViews").WithSummary("Lists one's own and the shared views.").For(Caller.Readers);
        group.MapPost("", AddAsync).WithName("SaveView").WithSummary("Keeps a view of Arrivals under a name.").For(Caller.Readers);
        group.MapPut("/order", OrderAsync).WithName("OrderSavedViews").WithSummary("Puts views into an order.").For(Caller.Readers);
        group.MapPut("/{id:guid}", ChangeAsync).WithName("ChangeSavedView").WithSummary("Changes a saved view.").For(Caller.Readers);
        group.MapDelete("/{id:guid}", RemoveAsync).WithName("RemoveSavedView").WithSummary("Removes a saved view.").For(Caller.Readers);
    }

    private static async Task<Ok<List<SavedViewAnswer>>> ListAsync(
        SavedViewStore views,
        ClaimsPrincipal caller,
        CancellationToken cancel
    ) => TypedResults.Ok(await views.ListAsync(caller, cancel));

    private static async Task<Outcome<SavedViewAnswer>> AddAsync(
        SavedViewRequest request,
        SavedViewStore views,
        ClaimsPrincipal caller,
        CancellationToken cancel
    ) => await views.AddAsync(request, caller, cancel);

    private static async Task<Outcome<SavedViewAnswer>> ChangeAsync(
        Guid id,
        SavedViewRequest request,
        SavedViewStore views,
        ClaimsPrincipal caller,
        CancellationToken cancel
    ) => await views.ChangeAsync(id, request, caller, cancel);

    private static async Task<Refusal?> RemoveAsync(Guid id, SavedViewStore views, ClaimsPrincipal caller, CancellationToken cancel) =>
        await views.RemoveAsync(id, caller, cancel);

    private static async Task<Refusal?> OrderAsync(
        ViewOrder order,
        SavedViewStore views,
        ClaimsPrincipal caller,
        CancellationToken cancel
    ) => await views.OrderAsync(order, caller, cancel);
}

/// <summary>A view to be kept.</summary>
/// <param name="Name">What it is called; up to 100 characters.</param>
/// <param name="Address">The part of Arrivals' address behind the question mark.</param>
/// <param name="Shared">Everybody in the workspace sees it; for owners and editors.</param>
/// <param name="Pinned">It stands in the head of Arrivals.</param>
public sealed record SavedViewRequest(string? Name, string? Address, bool Shared = false, bool Pinned = false);

/// <summary>An order of views.</summary>
/// <param name="Ids">Their ids, the first one first.</param>
public sealed record ViewOrder(List<Guid>? Ids);

/// <summary>A view of Arrivals kept under a name.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Name">What it is called.</param>
/// <param name="Address">The part of Arrivals' address behind the question mark.</param>
/// <param name="Shared">Everybody in the workspace sees it.</param>
/// <param name="Pinned">It stands in the head of Arrivals.</param>
/// <param name="Own">It is the caller's own.</param>
/// <param name="SavedBy">Who saved it last.</param>
/// <param name="SavedAt">When that was.</param>
public sealed record SavedViewAnswer(
    Guid Id,
    string Name,
    string Address,
    bool Shared,
    bool Pinned,
    bool Own,
    string SavedBy,
    DateTimeOffset SavedAt
);

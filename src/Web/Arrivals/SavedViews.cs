using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>Views of Arrivals kept under a name: one's own, and those shared with everybody. Only owners and editors share.</summary>
public static class SavedViews
{
    private const int LongestName = 100;
    private const int LongestAddress = 4_000;
    private const int Most = 200;

    public static void MapSavedViews(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/saved-views").WithTags("Arrivals");
        group.MapGet("", ListAsync).WithName("ListSavedViews").WithSummary("Lists one's own and the shared views.").For(Caller.Readers);
        group.MapPost("", AddAsync).WithName("SaveView").WithSummary("Keeps a view of Arrivals under a name.").For(Caller.Readers);
        group.MapPut("/order", OrderAsync).WithName("OrderSavedViews").WithSummary("Puts views into an order.").For(Caller.Readers);
        group.MapPut("/{id:guid}", ChangeAsync).WithName("ChangeSavedView").WithSummary("Changes a saved view.").For(Caller.Readers);
        group.MapDelete("/{id:guid}", RemoveAsync).WithName("RemoveSavedView").WithSummary("Removes a saved view.").For(Caller.Readers);
    }

    private static async Task<Ok<List<SavedViewAnswer>>> ListAsync(BeaconDb db, ClaimsPrincipal caller, CancellationToken cancel)
    {
        var me = PersonOf(caller);
        return TypedResults.Ok((await Seen(db, me).ToListAsync(cancel)).ConvertAll(v => AnswerOf(v, me)));
    }

    private static async Task<Outcome<SavedViewAnswer>> AddAsync(
        SavedViewRequest request,
        BeaconDb db,
        ClaimsPrincipal caller,
        AuditLog auditLog,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var me = PersonOf(caller);
        if (Refused(request, caller) is { } refusal)
        {
            return refusal;
        }

        var known = await Seen(db, me).ToListAsync(cancel);
        if (known.Count >= Most)
        {
            return Refusal.Unacceptable("views-many", $"There are {Most} views already; remove one first.");
        }

        var view = new SavedView
        {
            Name = "",
            Address = "",
            SavedBy = "",
            UserId = me,
            Place = known.Count == 0 ? 0 : known.Max(v => v.Place) + 1,
        };
        Put(view, request, auditLog, clock);
        db.SavedViews.Add(view);
        await db.SaveChangesAsync(cancel);
        return AnswerOf(view, me);
    }

    private static async Task<Outcome<SavedViewAnswer>> ChangeAsync(
        Guid id,
        SavedViewRequest request,
        BeaconDb db,
        ClaimsPrincipal caller,
        AuditLog auditLog,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var me = PersonOf(caller);
        if (await ChangeableAsync(db, id, me, caller, cancel) is not { } view)
        {
            return Refusal.NotFound("view");
        }

        if (Refused(request, caller) is { } refusal)
        {
            return refusal;
        }

        Put(view, request, auditLog, clock);
        await db.SaveChangesAsync(cancel);
        return AnswerOf(view, me);
    }

    private static async Task<Refusal?> RemoveAsync(Guid id, BeaconDb db, ClaimsPrincipal caller, CancellationToken cancel)
    {
        if (await ChangeableAsync(db, id, PersonOf(caller), caller, cancel) is not { } view)
        {
            return Refusal.NotFound("view");
        }

        db.SavedViews.Remove(view);
        await db.SaveChangesAsync(cancel);
        return null;
    }

    /// <summary>Puts those that may be changed into the order given; what is not named keeps its order behind them.</summary>
    private static async Task<Refusal?> OrderAsync(ViewOrder order, BeaconDb db, ClaimsPrincipal caller, CancellationToken cancel)
    {
        var ids = order.Ids ?? [];
        if (ids.Count > Most)
        {
            return Refusal.Invalid("views-many", $"There are at most {Most} views.");
        }

        bool mayShare = MayShare(caller);
        foreach (var view in await Seen(db, PersonOf(caller)).AsTracking().ToListAsync(cancel))
        {
            int place = ids.IndexOf(view.Id);
            if (mayShare || !view.Shared)
            {
                view.Place = place >= 0 ? place : ids.Count + view.Place;
            }
        }

        await db.SaveChangesAsync(cancel);
        return null;
    }

    private static IQueryable<SavedView> Seen(BeaconDb db, Guid? me) =>
        db.SavedViews.AsNoTracking().Where(v => v.Shared || v.UserId == me).OrderBy(v => v.Place).ThenBy(v => v.Name).ThenBy(v => v.Id);

    private static async Task<SavedView?> ChangeableAsync(
        BeaconDb db,
        Guid id,
        Guid? me,
        ClaimsPrincipal caller,
        CancellationToken cancel
    ) =>
        await db.SavedViews.SingleOrDefaultAsync(v => v.Id == id && (v.Shared || v.UserId == me), cancel) is { } view
        && (!view.Shared || view.UserId == me || MayShare(caller))
            ? view
            : null;

    private static Refusal? Refused(SavedViewRequest request, ClaimsPrincipal caller) =>
        string.IsNullOrWhiteSpace(request.Name) ? Refusal.Unacceptable("name-missing", "Give the view a name.")
        : request.Name.Trim().Length > LongestName
            ? Refusal.Unacceptable("name-long", $"A name has at most {LongestName} characters; shorten it.")
        : (request.Address ?? "").Length > LongestAddress
            ? Refusal.Unacceptable("view-long", $"A view's address has at most {LongestAddress:N0} characters; remove some filters.")
        : request.Shared && !MayShare(caller)
            ? Refusal.Forbidden("sharing-refused", "Only owners and editors share views; save it for yourself.")
        : null;

    private static void Put(SavedView view, SavedViewRequest request, AuditLog auditLog, TimeProvider clock)
    {
        (view.Name, view.Address) = (request.Name!.Trim(), (request.Address ?? "").TrimStart('?'));
        (view.Shared, view.Pinned) = (request.Shared, request.Pinned);
        (view.SavedBy, view.SavedAt) = (auditLog.Who, clock.GetUtcNow());
    }

    private static bool MayShare(ClaimsPrincipal caller) =>
        caller.FindFirstValue(BeaconClaims.Role) is nameof(Role.Owner) or nameof(Role.Editor);

    /// <summary>The person that asks; null for a key.</summary>
    private static Guid? PersonOf(ClaimsPrincipal caller) =>
        Guid.TryParse(caller.FindFirstValue(ClaimTypes.NameIdentifier), out var id) ? id : null;

    private static SavedViewAnswer AnswerOf(SavedView view, Guid? me) =>
        new(view.Id, view.Name, view.Address, view.Shared, view.Pinned, view.UserId == me, view.SavedBy, view.SavedAt);
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

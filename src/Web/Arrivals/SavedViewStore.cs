using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>Keeps views: one's own, and those shared with everybody. Only owners and editors share.</summary>
public sealed class SavedViewStore(BeaconDb db, AuditLog auditLog, TimeProvider clock)
{
    private const string What = "saved-view";
    private const int LongestName = 100;
    private const int LongestAddress = 4_000;
    private const int Most = 200;

    /// <summary>One's own and the shared views, in their order.</summary>
    public async Task<List<SavedViewAnswer>> ListAsync(ClaimsPrincipal caller, CancellationToken cancel)
    {
        var me = BeaconClaims.PersonOf(caller);
        return (await Seen(me).ToListAsync(cancel)).ConvertAll(v => AnswerOf(v, me));
    }

    /// <summary>Keeps a view behind the others.</summary>
    public async Task<Outcome<SavedViewAnswer>> AddAsync(SavedViewRequest request, ClaimsPrincipal caller, CancellationToken cancel)
    {
        var me = BeaconClaims.PersonOf(caller);
        if (Refused(request, caller) is { } refusal)
        {
            return refusal;
        }

        var known = await Seen(me).ToListAsync(cancel);
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
        Put(view, request);
        db.SavedViews.Add(view);
        auditLog.Add(What, view.Id, null, SaysOf(view));
        await db.SaveChangesAsync(cancel);
        return AnswerOf(view, me);
    }

    /// <summary>Changes a view one may change.</summary>
    public async Task<Outcome<SavedViewAnswer>> ChangeAsync(
        Guid id,
        SavedViewRequest request,
        ClaimsPrincipal caller,
        CancellationToken cancel
    )
    {
        var me = BeaconClaims.PersonOf(caller);
        if (await ChangeableAsync(id, me, caller, cancel) is not { } view)
        {
            return Refusal.NotFound("view");
        }

        if (Refused(request, caller) is { } refusal)
        {
            return refusal;
        }

        object before = SaysOf(view);
        Put(view, request);
        auditLog.Add(What, id, before, SaysOf(view));
        await db.SaveChangesAsync(cancel);
        return AnswerOf(view, me);
    }

    /// <summary>Removes a view one may change.</summary>
    public async Task<Refusal?> RemoveAsync(Guid id, ClaimsPrincipal caller, CancellationToken cancel)
    {
        if (await ChangeableAsync(id, BeaconClaims.PersonOf(caller), caller, cancel) is not { } view)
        {
            return Refusal.NotFound("view");
        }

        db.SavedViews.Remove(view);
        auditLog.Add(What, id, SaysOf(view), null);
        await db.SaveChangesAsync(cancel);
        return null;
    }

    /// <summary>Puts those that may be changed into the order given; what is not named keeps its order behind them.</summary>
    public async Task<Refusal?> OrderAsync(ViewOrder order, ClaimsPrincipal caller, CancellationToken cancel)
    {
        var ids = order.Ids ?? [];
        if (ids.Count > Most)
        {
            return Refusal.Invalid("views-many", $"There are at most {Most} views.");
        }

        bool mayShare = MayShare(caller);
        foreach (var view in await Seen(BeaconClaims.PersonOf(caller)).AsTracking().ToListAsync(cancel))
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

    private IQueryable<SavedView> Seen(Guid? me) =>
        db.SavedViews.AsNoTracking().Where(v => v.Shared || v.UserId == me).OrderBy(v => v.Place).ThenBy(v => v.Name).ThenBy(v => v.Id);

    private async Task<SavedView?> ChangeableAsync(Guid id, Guid? me, ClaimsPrincipal caller, CancellationToken cancel) =>
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

    private void Put(SavedView view, SavedViewRequest request)
    {
        (view.Name, view.Address) = (request.Name!.Trim(), (request.Address ?? "").TrimStart('?'));
        (view.Shared, view.Pinned) = (request.Shared, request.Pinned);
        (view.SavedBy, view.SavedAt) = (auditLog.Who, clock.GetUtcNow());
    }

    private static object SaysOf(SavedView view) =>
        new
        {
            view.Name,
            view.Address,
            view.Shared,
            view.Pinned,
        };

    private static bool MayShare(ClaimsPrincipal caller) =>
        caller.FindFirstValue(BeaconClaims.Role) is nameof(Role.Owner) or nameof(Role.Editor);

    private static SavedViewAnswer AnswerOf(SavedView view, Guid? me) =>
        new(view.Id, view.Name, view.Address, view.Shared, view.Pinned, view.UserId == me, view.SavedBy, view.SavedAt);
}

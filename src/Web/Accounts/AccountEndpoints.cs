using System.Security.Claims;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Conventions.Starting;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Demo;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Accounts;

/// <summary>Signing in and out, and the first owner of an empty installation.</summary>
public static class AccountEndpoints
{
    private const int MostColumns = 50;
    private const int LongestColumn = 40;

    public static void MapAccounts(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/account").WithTags("Account");
        group.MapGet("", GetAsync);
        group.MapPost("/sign-in", SignInAsync);
        group.MapPost("/sign-out", SignOutAsync);
        group.MapPost("/first-owner", MakeFirstOwnerAsync);
        group.MapPut("/ledger-columns", KeepColumnsAsync);
    }

    private static async Task<Ok<AccountState>> GetAsync(
        HttpContext context, BeaconDb db, IAntiforgery antiforgery, RunMode mode, TimeProvider clock, CancellationToken cancel)
    {
        context.Response.Headers.CacheControl = "no-store";
        PersonState? person = null;
        if (Guid.TryParse(context.User.FindFirstValue(ClaimTypes.NameIdentifier), out var id)
            && Guid.TryParse(context.User.FindFirstValue(BeaconClaims.Workspace), out var workspaceId))
        {
            var user = await db.Users.AsNoTracking().SingleAsync(u => u.Id == id, cancel);
            var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == workspaceId, cancel);
            var columns = await db.Members.Where(m => m.UserId == id && m.WorkspaceId == workspaceId).Select(m => m.LedgerColumns).SingleAsync(cancel);
            var today = WorkspaceDay.At(clock.GetUtcNow(), workspace.TimeZone);
            person = new PersonState(
                user.DisplayName, user.Email!, context.User.FindFirstValue(BeaconClaims.Role)!, workspace.Name, workspace.Currency, workspace.TimeZone, today, columns);
        }

        bool empty = person is null && !await db.Users.AnyAsync(cancel);
        return TypedResults.Ok(new AccountState(
            person, empty, mode.IsDemo ? DemoPeople.All : [], antiforgery.GetAndStoreTokens(context).RequestToken!,
            empty ? [.. StartingConventions.All.Select(s => new StartAnswer(s.Name, s.Title, s.Suits))] : []));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> SignInAsync(
        SignIn request, SignInManager<AppUser> signIn, UserManager<AppUser> users, RunMode mode)
    {
        var user = string.IsNullOrWhiteSpace(request.Mail) ? null : await users.FindByEmailAsync(request.Mail);
        if (mode.IsDemo && user is not null && DemoPeople.All.Any(p => p.Mail == user.Email) && string.IsNullOrEmpty(request.Password))
        {
            await signIn.SignInAsync(user, isPersistent: false);
            return TypedResults.NoContent();
        }

        var outcome = user is null
            ? SignInResult.Failed
            : await signIn.PasswordSignInAsync(user, request.Password ?? "", isPersistent: false, lockoutOnFailure: true);
        if (outcome.Succeeded)
        {
            return TypedResults.NoContent();
        }

        return outcome.IsLockedOut
            ? Refusal.Of(StatusCodes.Status429TooManyRequests, "locked-out", "Too many wrong passwords; wait 15 minutes and try again.")
            : Refusal.Of(StatusCodes.Status400BadRequest, "sign-in-failed", "Mail address and password don't go together; check both.");
    }

    private static async Task<NoContent> SignOutAsync(SignInManager<AppUser> signIn)
    {
        await signIn.SignOutAsync();
        return TypedResults.NoContent();
    }

    /// <summary>Keeps which columns the person has the Ledger show, wherever they sign in; null for the usual ones.</summary>
    private static async Task<Results<NoContent, ProblemHttpResult>> KeepColumnsAsync(ColumnChoice choice, HttpContext context, BeaconDb db, CancellationToken cancel)
    {
        if (choice.Columns is { } given && (given.Count > MostColumns || given.Any(c => c is null or { Length: 0 or > LongestColumn })))
        {
            return Refusal.Of(StatusCodes.Status400BadRequest, "columns-refused", $"The Ledger shows at most {MostColumns} columns; send their keys.");
        }

        bool isPerson = Guid.TryParse(context.User.FindFirstValue(ClaimTypes.NameIdentifier), out var id);
        List<string>? columns = choice.Columns is null ? null : [.. choice.Columns.Distinct()];
        return isPerson && await db.Members.Where(m => m.UserId == id).ExecuteUpdateAsync(m => m.SetProperty(x => x.LedgerColumns, columns), cancel) > 0
            ? TypedResults.NoContent() : Refusal.NotFound("person");
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> MakeFirstOwnerAsync(
        FirstOwner request, FirstOwnerMaker maker, CancellationToken cancel)
    {
        return await maker.MakeAsync(request, cancel) is { } refusal ? refusal : TypedResults.NoContent();
    }
}

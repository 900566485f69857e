using System.Security.Claims;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Accounts;
using PreciseBeacon.Core.Conventions.Starting;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Outbox;

namespace PreciseBeacon.Web.Accounts;

/// <summary>Signing in and out, and the first owner of an empty installation.</summary>
public static class AccountEndpoints
{
    private const int MostColumns = 50;
    private const int LongestColumn = 40;

    public static void MapAccounts(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/account").WithTags("Account");
        group
            .MapGet("", GetAsync)
            .WithName("ReadAccount")
            .WithSummary("Tells who is signed in, and the token that changes need.")
            .For(Caller.Anybody);
        group
            .MapPost("/sign-in", SignInAsync)
            .WithName("SignIn")
            .WithSummary("Starts a session with a mail address and a password.")
            .For(Caller.Anybody)
            .RequireRateLimiting(SignInThrottle.Policy);
        group
            .MapPost("/forgotten", ForgottenAsync)
            .WithName("ForgetPassword")
            .WithSummary("Mails a link for a new password to whoever has this address; the answer is the same for every address.")
            .For(Caller.Anybody)
            .RequireRateLimiting(SignInThrottle.Policy);
        group.MapPost("/sign-out", SignOutAsync).WithName("SignOut").WithSummary("Ends this session.").For(Caller.Anybody);
        group
            .MapPost("/first-owner", MakeFirstOwnerAsync)
            .WithName("MakeFirstOwner")
            .WithSummary("Makes the first owner and their workspace, once.")
            .For(Caller.Anybody);
        group
            .MapPost("/password", ChangePasswordAsync)
            .WithName("ChangePassword")
            .WithSummary("Changes one's own password and ends all other sessions.")
            .For(Caller.Readers)
            .RequireRateLimiting(SignInThrottle.Policy);
        group
            .MapPut("/name", ChangeNameAsync)
            .WithName("ChangeName")
            .WithSummary("Changes what one is called; what was done before keeps the name of then.")
            .For(Caller.Readers);
        group.MapGet("/sessions", ListSessionsAsync).WithName("ListSessions").WithSummary("Lists one's own sessions.").For(Caller.Readers);
        group
            .MapPost("/sessions/end-others", EndOthersAsync)
            .WithName("EndOtherSessions")
            .WithSummary("Ends all of one's sessions but this one.")
            .For(Caller.Readers);
        group
            .MapDelete("/sessions/{id:guid}", EndSessionAsync)
            .WithName("EndSession")
            .WithSummary("Ends one of one's own sessions.")
            .For(Caller.Readers);
        group
            .MapPut("/ledger-columns", KeepColumnsAsync)
            .WithName("ChooseLedgerColumns")
            .WithSummary("Remembers which columns a person has the Ledger show.")
            .For(Caller.Readers);
    }

    private static async Task<Ok<AccountState>> GetAsync(
        HttpContext context,
        BeaconDb db,
        IAntiforgery antiforgery,
        RunMode mode,
        OutboxWriter outbox,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        context.Response.Headers.CacheControl = "no-store";
        PersonState? person = null;
        if (
            BeaconClaims.PersonOf(context.User) is { } id
            && Guid.TryParse(context.User.FindFirstValue(BeaconClaims.Workspace), out var workspaceId)
        )
        {
            var user = await db.Users.AsNoTracking().SingleAsync(u => u.Id == id, cancel);
            var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == workspaceId, cancel);
            var columns = await db
                .Members.Where(m => m.UserId == id && m.WorkspaceId == workspaceId)
                .Select(m => m.LedgerColumns)
                .SingleAsync(cancel);
            var today = WorkspaceDay.At(clock.GetUtcNow(), workspace.TimeZone);
            person = new PersonState(
                user.DisplayName,
                user.Email!,
                Enum.Parse<Role>(context.User.FindFirstValue(BeaconClaims.Role)!),
                workspace.Name,
                workspace.Currency,
                workspace.TimeZone,
                today,
                columns
            );
        }

        bool empty = person is null && !await db.Users.AnyAsync(cancel);
        return TypedResults.Ok(
            new AccountState(
                person,
                empty,
                [.. (mode.StartData?.People ?? []).Select(p => new DemoPerson(p.Name, p.Mail, p.Role))],
                outbox.IsOn,
                antiforgery.GetAndStoreTokens(context).RequestToken!,
                empty ? [.. StartingConventions.All.Select(s => new StartAnswer(s.Name, s.Title, s.Suits))] : []
            )
        );
    }

    private static async Task<Refusal?> SignInAsync(
        SignIn request,
        HttpContext context,
        PasswordCheck passwords,
        SessionKeeper sessions,
        KnownDevice devices,
        UserManager<AppUser> users,
        RunMode mode,
        CancellationToken cancel
    )
    {
        var user = string.IsNullOrWhiteSpace(request.Mail) ? null : await users.FindByEmailAsync(request.Mail);
        bool byName =
            user is not null && mode.StartData?.People.Any(p => p.Mail == user.Email) == true && string.IsNullOrEmpty(request.Password);
        if (!byName && await passwords.CheckAsync(context, request.Mail ?? "", user, request.Password ?? "") is { } refusal)
        {
            return refusal;
        }

        await sessions.BeginAsync(user!, cancel);
        devices.Mark(context, user!.Id);
        return null;
    }

    private static async Task<Refusal?> ForgottenAsync(ForgottenPassword request, OutboxWriter outbox, CancellationToken cancel)
    {
        if (!outbox.IsOn)
        {
            return Refusal.Unacceptable("mail-off", "No mails are sent from here; ask an owner of your workspace for a link.");
        }

        if (MailAddresses.Read(request.Mail) is not { } address)
        {
            return MailAddresses.Refused();
        }

        await outbox.AddForgottenAsync(address, cancel);
        return null;
    }

    private static async Task<NoContent> SignOutAsync(SessionKeeper sessions, CancellationToken cancel)
    {
        await sessions.EndOwnAsync(cancel);
        return TypedResults.NoContent();
    }

    internal static Refusal NameRefused() =>
        Refusal.Invalid("name-refused", $"Give your name, in at most {PersonName.Longest} characters.");

    private static async Task<Refusal?> ChangeNameAsync(NameChange change, HttpContext context, BeaconDb db, CancellationToken cancel)
    {
        if (PersonName.Read(change.Name) is not { } name)
        {
            return NameRefused();
        }

        return
            BeaconClaims.PersonOf(context.User) is { } id
            && await db.Users.Where(u => u.Id == id).ExecuteUpdateAsync(u => u.SetProperty(x => x.DisplayName, name), cancel) > 0
            ? null
            : Refusal.NotFound("person");
    }

    /// <summary>Changes one's own password; all other sessions end with it.</summary>
    private static async Task<Refusal?> ChangePasswordAsync(
        PasswordChange change,
        HttpContext context,
        PasswordCheck passwords,
        SessionKeeper sessions,
        UserManager<AppUser> users,
        BeaconDb db,
        CancellationToken cancel
    )
    {
        if (BeaconClaims.PersonOf(context.User) is not { } id || await users.FindByIdAsync(id.ToString()) is not { } user)
        {
            return Refusal.NotFound("person");
        }

        if (await passwords.CheckAsync(context, user.Email!, user, change.Current ?? "") is { } wrong)
        {
            return wrong;
        }

        string workspace = await db.Workspaces.Where(w => w.Id == db.CurrentWorkspaceId).Select(w => w.Name).SingleAsync(cancel);
        var hosts = await db.SiteHosts.Select(h => h.Host).ToListAsync(cancel);
        if (PasswordCheck.WhyNot(change.Next ?? "", [user.DisplayName, user.Email!, workspace, .. hosts]) is { } weak)
        {
            return weak;
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var done = await users.ChangePasswordAsync(user, change.Current!, change.Next!);
        if (!done.Succeeded)
        {
            return Refusal.Conflict("changed-meanwhile", "This account was changed meanwhile; reload the page and try again.");
        }

        await sessions.EndOthersAsync(id, SessionKeeper.Of(context.User), cancel);
        await transaction.CommitAsync(cancel);
        return null;
    }

    private static async Task<Outcome<IReadOnlyList<SessionAnswer>>> ListSessionsAsync(
        HttpContext context,
        SessionKeeper sessions,
        CancellationToken cancel
    )
    {
        context.Response.Headers.CacheControl = "no-store";
        return BeaconClaims.PersonOf(context.User) is { } id
            ? Outcome.Of(await sessions.ListAsync(id, SessionKeeper.Of(context.User), cancel))
            : Refusal.NotFound("person");
    }

    private static async Task<Refusal?> EndSessionAsync(Guid id, HttpContext context, SessionKeeper sessions, CancellationToken cancel) =>
        BeaconClaims.PersonOf(context.User) is { } person && await sessions.EndAsync(person, id, cancel)
            ? null
            : Refusal.NotFound("session");

    private static async Task<Outcome<SessionsEnded>> EndOthersAsync(
        HttpContext context,
        SessionKeeper sessions,
        CancellationToken cancel
    ) =>
        BeaconClaims.PersonOf(context.User) is { } person
            ? new SessionsEnded(await sessions.EndOthersAsync(person, SessionKeeper.Of(context.User), cancel))
            : Refusal.NotFound("person");

    /// <summary>Keeps which columns the person has the Ledger show, wherever they sign in; null for the usual ones.</summary>
    private static async Task<Refusal?> KeepColumnsAsync(ColumnChoice choice, HttpContext context, BeaconDb db, CancellationToken cancel)
    {
        if (choice.Columns is { } given && (given.Count > MostColumns || given.Any(c => c is null or { Length: 0 or > LongestColumn })))
        {
            return Refusal.Invalid("columns-refused", $"The Ledger shows at most {MostColumns} columns; send their keys.");
        }

        List<string>? columns = choice.Columns is null ? null : [.. choice.Columns.Distinct()];
        return
            BeaconClaims.PersonOf(context.User) is { } id
            && await db.Members.Where(m => m.UserId == id).ExecuteUpdateAsync(m => m.SetProperty(x => x.LedgerColumns, columns), cancel) > 0
            ? null
            : Refusal.NotFound("person");
    }

    private static async Task<Refusal?> MakeFirstOwnerAsync(FirstOwner request, FirstOwnerMaker maker, CancellationToken cancel)
    {
        return await maker.MakeAsync(request, cancel) is { } refusal ? refusal : null;
    }
}

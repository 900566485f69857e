using Microsoft.AspNetCore.Http.HttpResults;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Accounts;

/// <summary>Who belongs to the workspace, and how somebody joins.</summary>
public static class MemberEndpoints
{
    public static void MapMembers(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/members").WithTags("Members");
        group.MapGet("", ListAsync).WithName("ListMembers").WithSummary("Lists who belongs to the workspace.").For(Caller.Readers);
        group.MapPut("/{id:guid}", ChangeAsync).WithName("ChangeMember").WithSummary("Gives a member another role.").For(Caller.Owner);
        group
            .MapDelete("/{id:guid}", RemoveAsync)
            .WithName("RemoveMember")
            .WithSummary("Takes a member out of the workspace; what they made stays.")
            .For(Caller.Owner);
        group
            .MapPost("/{id:guid}/reset", ResetAsync)
            .WithName("ResetPassword")
            .WithSummary("Makes a link by which a member chooses a new password.")
            .For(Caller.Owner);
        group
            .MapPost("/invitations", InviteAsync)
            .WithName("InviteMember")
            .WithSummary("Makes a link by which somebody joins the workspace.")
            .For(Caller.Owner);
        group
            .MapDelete("/invitations/{id:guid}", RevokeAsync)
            .WithName("RevokeInvitation")
            .WithSummary("Ends an invitation before it is used.")
            .For(Caller.Owner);
        var account = app.MapGroup("/api/account/invitation").WithTags("Account");
        account
            .MapPost("", LookAsync)
            .WithName("ReadInvitation")
            .WithSummary("Tells what an invitation, or a link for a new password, is for.")
            .For(Caller.Anybody)
            .RequireRateLimiting(SignInThrottle.Policy);
        account
            .MapPost("/use", UseAsync)
            .WithName("UseInvitation")
            .WithSummary("Joins a workspace, or chooses a new password, and begins a session.")
            .For(Caller.Anybody)
            .RequireRateLimiting(SignInThrottle.Policy);
    }

    private static async Task<Ok<MembersAnswer>> ListAsync(HttpContext context, MemberStore members, CancellationToken cancel) =>
        TypedResults.Ok(await members.ListAsync(BeaconClaims.PersonOf(context.User), cancel));

    private static async Task<Refusal?> ChangeAsync(Guid id, MemberChange change, MemberStore members, CancellationToken cancel) =>
        await members.ChangeAsync(id, change.Role, cancel);

    private static async Task<Refusal?> RemoveAsync(Guid id, MemberStore members, CancellationToken cancel) =>
        await members.RemoveAsync(id, cancel);

    private static async Task<Outcome<InvitationMade>> ResetAsync(Guid id, MemberStore members, CancellationToken cancel) =>
        await members.ResetAsync(id, cancel);

    private static async Task<Outcome<InvitationMade>> InviteAsync(
        InvitationRequest request,
        InvitationBook invitations,
        CancellationToken cancel
    ) => await invitations.InviteAsync(request.Mail, request.Role, cancel);

    private static async Task<Refusal?> RevokeAsync(Guid id, InvitationBook invitations, CancellationToken cancel) =>
        await invitations.RevokeAsync(id, cancel);

    private static async Task<Outcome<InvitationSeen>> LookAsync(
        InvitationLook look,
        InvitationBook invitations,
        CancellationToken cancel
    ) => await invitations.LookAsync(look.Secret, cancel);

    private static async Task<Refusal?> UseAsync(
        InvitationUse use,
        HttpContext context,
        InvitationBook invitations,
        CancellationToken cancel
    ) => await invitations.UseAsync(use, context, cancel);
}

/// <summary>Who belongs to the workspace.</summary>
/// <param name="Members">By name.</param>
/// <param name="Invitations">Links that can still be used, the newest first.</param>
public sealed record MembersAnswer(IReadOnlyList<MemberAnswer> Members, IReadOnlyList<InvitationAnswer> Invitations);

/// <summary>Somebody who belongs to the workspace.</summary>
/// <param name="Own">The person who asks.</param>
/// <param name="SeenAt">When they last used it, to within five minutes; null where no session holds.</param>
public sealed record MemberAnswer(Guid Id, string Name, string Mail, Role Role, bool Own, DateTimeOffset? SeenAt);

/// <summary>A link that can still be used.</summary>
/// <param name="Role">What they become, or are.</param>
/// <param name="IsReset">A member chooses a new password by it; else somebody joins.</param>
/// <param name="ExpiresAt">When it ends by itself.</param>
public sealed record InvitationAnswer(
    Guid Id,
    string Mail,
    Role Role,
    bool IsReset,
    string MadeBy,
    DateTimeOffset MadeAt,
    DateTimeOffset ExpiresAt
);

/// <summary>Another role for a member.</summary>
/// <param name="Role">Owner, editor or viewer.</param>
public sealed record MemberChange(Role Role);

/// <summary>Somebody to be invited.</summary>
/// <param name="Mail">Their mail address, by which they sign in.</param>
/// <param name="Role">Owner, editor or viewer.</param>
public sealed record InvitationRequest(string? Mail, Role Role);

/// <summary>A link to be handed over.</summary>
/// <param name="Address">It works once, and is shown only now.</param>
/// <param name="ExpiresAt">When it ends by itself.</param>
/// <param name="Mailed">The person gets it by mail too.</param>
public sealed record InvitationMade(Guid Id, string Address, DateTimeOffset ExpiresAt, bool Mailed);

/// <summary>A link that somebody was handed.</summary>
/// <param name="Secret">What stands in it behind the #.</param>
public sealed record InvitationLook(string? Secret);

/// <summary>What a link is for.</summary>
/// <param name="InvitedBy">Who made it.</param>
/// <param name="IsReset">The person is a member and chooses a new password.</param>
/// <param name="IsKnown">There is an account with this mail address; its password is asked for.</param>
public sealed record InvitationSeen(string Workspace, string Mail, Role Role, string InvitedBy, bool IsReset, bool IsKnown);

/// <summary>A link to be used.</summary>
/// <param name="Secret">What stands in it behind the #.</param>
/// <param name="Name">What the person is called; only for somebody new.</param>
/// <param name="Password">The one to hold from now on; that of the account, where there is one with this mail address.</param>
public sealed record InvitationUse(string? Secret, string? Name, string? Password);

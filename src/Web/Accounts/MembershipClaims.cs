using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Accounts;

/// <summary>
/// Looks up on every request whether a signed-in person's session still holds and what their role is, so that a session
/// ended or a role taken away is gone at once and not when the cookie ends.
/// </summary>
public sealed class MembershipClaims(SessionKeeper sessions) : IClaimsTransformation
{
    public async Task<ClaimsPrincipal> TransformAsync(ClaimsPrincipal principal)
    {
        if (
            principal.HasClaim(c => c.Type == BeaconClaims.Role)
            || !Guid.TryParse(principal.FindFirstValue(ClaimTypes.NameIdentifier), out var userId)
            || SessionKeeper.Of(principal) is not { } session
        )
        {
            return principal;
        }

        if (await sessions.FindAsync(session, userId) is { } member)
        {
            principal.AddIdentity(
                new ClaimsIdentity([
                    new Claim(BeaconClaims.Workspace, member.WorkspaceId.ToString()),
                    new Claim(BeaconClaims.Role, member.Role.ToString()),
                    new Claim(BeaconClaims.Person, member.Name),
                ])
            );
        }

        return principal;
    }
}

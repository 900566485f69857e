using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Data;

namespace PreciseBeacon.Web.Accounts;

/// <summary>
/// Looks up a signed-in person's role on every request, so that a role taken away is gone at once and not when the
/// cookie ends.
/// </summary>
public sealed class MembershipClaims(BeaconDb db) : IClaimsTransformation
{
    public async Task<ClaimsPrincipal> TransformAsync(ClaimsPrincipal principal)
    {
        if (principal.HasClaim(c => c.Type == BeaconClaims.Role)
            || !Guid.TryParse(principal.FindFirstValue(ClaimTypes.NameIdentifier), out var userId))
        {
            return principal;
        }

        var member = await db.Members.IgnoreQueryFilters().AsNoTracking()
            .Where(m => m.UserId == userId)
            .OrderBy(m => m.Id)
            .Select(m => new { m.WorkspaceId, m.Role, m.User!.DisplayName })
            .FirstOrDefaultAsync();
        if (member is not null)
        {
            principal.AddIdentity(new ClaimsIdentity(
                [
                    new Claim(BeaconClaims.Workspace, member.WorkspaceId.ToString()),
                    new Claim(BeaconClaims.Role, member.Role.ToString()),
                    new Claim(BeaconClaims.Person, member.DisplayName),
                ]));
        }

        return principal;
    }
}

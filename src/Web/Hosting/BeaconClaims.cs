using System.Security.Claims;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Hosting;

/// <summary>What a request's identity says about its caller.</summary>
public static class BeaconClaims
{
    public const string Workspace = "beacon:workspace";
    public const string Role = "beacon:role";

    /// <summary>The session of a person; keys have none.</summary>
    public const string Session = "beacon:session";

    /// <summary>What people call the person; keys have their name in the identity itself.</summary>
    public const string Person = "beacon:person";

    /// <summary>The person that asks; null for a key, and for nobody.</summary>
    public static Guid? PersonOf(ClaimsPrincipal caller) =>
        Guid.TryParse(caller.FindFirstValue(ClaimTypes.NameIdentifier), out var id) ? id : null;

    /// <summary>The person's or key's name, as written into histories.</summary>
    public static string NameOf(ClaimsPrincipal caller) => caller.FindFirstValue(Person) ?? caller.Identity?.Name ?? "somebody";
}

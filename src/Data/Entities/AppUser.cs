using Microsoft.AspNetCore.Identity;

namespace PreciseBeacon.Data.Entities;

/// <summary>Somebody who can sign in.</summary>
public sealed class AppUser : IdentityUser<Guid>
{
    public required string DisplayName { get; set; }
}

using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Accounts;

/// <summary>A key for other programs, without the key itself.</summary>
/// <param name="Role">What it may do; a shortener may only call <c>/shorten</c>.</param>
/// <param name="DemoOnly">True for one everybody knows, which works in the demo alone.</param>
/// <param name="RevokedAt">Set once it works no more.</param>
/// <param name="ExpiresAt">From when on it works no more; null for never.</param>
/// <param name="LastUsedAt">When it was last used, to within a minute; null for never.</param>
public sealed record KeyAnswer(
    Guid Id,
    string Name,
    Role Role,
    bool DemoOnly,
    DateTimeOffset CreatedAt,
    DateTimeOffset? RevokedAt,
    DateTimeOffset? ExpiresAt = null,
    DateTimeOffset? LastUsedAt = null
);

/// <summary>A key that was made.</summary>
/// <param name="Key">About the key.</param>
/// <param name="Secret">The key itself; shown this once and kept nowhere.</param>
public sealed record KeyMade(KeyAnswer Key, string Secret);

/// <summary>A key to be made.</summary>
/// <param name="Name">What it is for.</param>
/// <param name="Role"><c>shortener</c>, <c>viewer</c>, <c>editor</c> or <c>owner</c>.</param>
/// <param name="Days">Days until it expires, 1 to 3,650; null for never.</param>
public sealed record KeyRequest(string? Name, string? Role, int? Days = null);

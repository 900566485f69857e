namespace PreciseBeacon.Data.Entities;

/// <summary>One sign-in of a person, from its beginning to its end; the cookie names it.</summary>
public sealed class UserSession
{
    /// <summary>122 random bits (RFC 9562 §5.4): whoever knows other sessions learns nothing about this one.</summary>
    public Guid Id { get; set; } = Guid.NewGuid();

    public Guid UserId { get; set; }

    /// <summary>What the browser says of itself, cut short; for the person to recognise it by.</summary>
    public required string UserAgent { get; set; }

    public DateTimeOffset StartedAt { get; set; }

    /// <summary>When it was last used, to within some minutes.</summary>
    public DateTimeOffset SeenAt { get; set; }

    public AppUser? User { get; set; }
}

namespace PreciseBeacon.Data.Entities;

/// <summary>What a member or a key may do; see the access table in Web.</summary>
public enum Role
{
    Owner,
    Editor,
    Viewer,

    /// <summary>Keys only: may shorten and nothing else.</summary>
    Shortener,
}

namespace PreciseBeacon.Web.Accounts;

/// <summary>Who may call an endpoint.</summary>
[Flags]
public enum Who
{
    /// <summary>Anybody, signed in or not.</summary>
    Stranger = 1,
    Viewer = 2,
    Editor = 4,
    Owner = 8,

    /// <summary>Keys made for tools that can only shorten.</summary>
    Shortener = 16,

    /// <summary>Everyone who may look at the workspace.</summary>
    Readers = Viewer | Editor | Owner,

    /// <summary>Everyone who may build links.</summary>
    Builders = Editor | Owner,

    Anybody = Stranger | Readers | Shortener,
}

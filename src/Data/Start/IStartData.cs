using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.Start;

/// <summary>Data that an empty database may be filled with at start, such as the demo. The product runs without any.</summary>
public interface IStartData
{
    /// <summary>Sign-ins that everybody knows and that need no password.</summary>
    IReadOnlyList<StartPerson> People { get; }

    /// <summary>Hosts on this machine, with ports, that pages may be fetched from although they are inside.</summary>
    IReadOnlyList<string> Hosts { get; }

    /// <summary>Where trials of mails are sent to, without a slash at the end; null for nowhere.</summary>
    string? InboxUrl { get; }

    /// <summary>Fills an empty database.</summary>
    /// <param name="services">Services of a scope.</param>
    /// <param name="cancel">Gives up; what is there then is not whole.</param>
    /// <returns>How many visits were made.</returns>
    Task<int> LoadAsync(IServiceProvider services, CancellationToken cancel);

    /// <summary>False where filling was broken off.</summary>
    Task<bool> IsWholeAsync(BeaconDb db, CancellationToken cancel);

    /// <summary>Follows settings that have changed since, such as ports.</summary>
    Task FollowAsync(IServiceProvider services, CancellationToken cancel);
}

/// <summary>A sign-in that everybody knows.</summary>
public sealed record StartPerson(string Name, string Mail, Role Role);

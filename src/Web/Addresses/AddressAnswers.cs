namespace PreciseBeacon.Web.Addresses;

/// <summary>A short domain of the workspace.</summary>
/// <param name="Host">With its port where there is one.</param>
/// <param name="Url">Its address, without a slash at the end.</param>
/// <param name="First">Short links are made on it where none is chosen.</param>
/// <param name="Usable">Short links can be made on it.</param>
/// <param name="Slugs">How many short links it has.</param>
/// <param name="CheckedAt">When it was last found to lead here; null for never.</param>
/// <param name="Problem">What the last check found wrong; null when nothing.</param>
public sealed record ShortDomainAnswer(
    Guid Id,
    string Host,
    string Url,
    bool First,
    bool Usable,
    long Slugs,
    DateTimeOffset? CheckedAt,
    string? Problem
);

/// <summary>A short domain to be added.</summary>
/// <param name="Address">Its address, such as <c>https://mmr.example</c>.</param>
public sealed record NewShortDomain(string? Address);

/// <summary>A host nothing may lead to.</summary>
public sealed record RefusedHostAnswer(Guid Id, string Host, string RefusedBy, DateTimeOffset RefusedAt);

/// <summary>A host that nothing shall lead to any more, nor to any host below it.</summary>
/// <param name="Host">The host, or an address on it.</param>
public sealed record NewRefusedHost(string? Host);

/// <summary>What refusing a host would do, or did.</summary>
/// <param name="Host">The host as it is listed.</param>
/// <param name="ShortLinks">Short links that lead there, and stop.</param>
/// <param name="Sample">Addresses of some of them.</param>
public sealed record RefusedHostEffect(string Host, int ShortLinks, IReadOnlyList<string> Sample);

using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Conventions;

/// <summary>What is known about the outside when a link is judged. Hosts are ASCII, with a port where the site has one.</summary>
/// <param name="OwnHosts">Hosts of the workspace's sites, with the style their reader needs.</param>
/// <param name="ApprovedHosts">Other hosts an owner has approved.</param>
/// <param name="HttpsHosts">Own hosts known to answer https.</param>
/// <param name="Today">Today in the workspace's zone.</param>
public sealed record LinkFacts(
    IReadOnlyDictionary<string, TagStyle> OwnHosts,
    IReadOnlySet<string> ApprovedHosts,
    IReadOnlySet<string> HttpsHosts,
    DateOnly Today)
{
    /// <summary>Values of sealed links by their code, for the codes that were looked up.</summary>
    public IReadOnlyDictionary<string, IReadOnlyDictionary<string, string>> Sealed { get; init; } = new Dictionary<string, IReadOnlyDictionary<string, string>>();

    /// <summary>Nothing known: every host is strange.</summary>
    public static LinkFacts None(DateOnly today) =>
        new(new Dictionary<string, TagStyle>(), new HashSet<string>(), new HashSet<string>(), today);

    public bool IsOwnOrApproved(string host) => OwnHosts.ContainsKey(host) || ApprovedHosts.Contains(host);
}

using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Composing;

/// <summary>What is known about the outside when a link is judged. Hosts are ASCII, with a port where the site has one.</summary>
/// <param name="OwnHosts">Hosts of the workspace's sites, with the style their reader needs.</param>
/// <param name="ApprovedHosts">Other hosts an owner has approved.</param>
/// <param name="HttpsHosts">Own hosts known to answer https.</param>
/// <param name="Today">Today in the workspace's zone.</param>
public sealed record LinkFacts(
    IReadOnlyDictionary<string, TagStyle> OwnHosts,
    IReadOnlySet<string> ApprovedHosts,
    IReadOnlySet<string> HttpsHosts,
    DateOnly Today
)
{
    /// <summary>Hosts that nothing may lead to, without a port; those below them are meant too.</summary>
    public IReadOnlySet<string> RefusedHosts { get; init; } = new HashSet<string>();

    /// <summary>The workspace's own short domains, with a port where there is one.</summary>
    public IReadOnlySet<string> ShortHosts { get; init; } = new HashSet<string>();

    /// <summary>Values of sealed links by their code, for the codes that were looked up.</summary>
    public IReadOnlyDictionary<string, IReadOnlyDictionary<string, string>> Sealed { get; init; } =
        new Dictionary<string, IReadOnlyDictionary<string, string>>();

    /// <summary>The workspace's campaigns as words of the campaign field; null where they are not known.</summary>
    public CampaignWords? Campaigns { get; init; }

    /// <summary>The workspace's placements by the values they give; null where they are not known.</summary>
    public KnownPlacements? Placements { get; init; }

    /// <summary>Nothing known: every host is strange.</summary>
    public static LinkFacts None(DateOnly today) =>
        new(new Dictionary<string, TagStyle>(), new HashSet<string>(), new HashSet<string>(), today);

    /// <summary>Whether links may lead to a host at once; one that is refused is not, even where it was approved before.</summary>
    public bool IsOwnOrApproved(string host) =>
        (OwnHosts.ContainsKey(host) || ApprovedHosts.Contains(host)) && Core.Outside.RefusedHosts.Find(RefusedHosts, host) is null;

    /// <summary>Why nothing may ever lead to a host, in one sentence; null where it may, or may once it is approved.</summary>
    public string? WhyRefused(string host) =>
        Core.Outside.RefusedHosts.Find(RefusedHosts, host) is { } refused
            ? $"{host} is blocked{(host.StartsWith(refused, StringComparison.Ordinal) ? "" : $", as part of {refused}")}; choose another page, or ask an owner."
        : ShortHosts.Contains(host)
            ? $"{host} is a short domain of your own, so a click would be counted twice; use the page the short link opens."
        : null;
}

using PreciseBeacon.Core.Composing;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Compose;

/// <summary>Several links at once, at most 1,000.</summary>
public sealed record ComposeManyRequest(IReadOnlyList<ComposeRequest> Links);

/// <summary>A URL to be read back.</summary>
/// <param name="Url">The URL.</param>
/// <param name="FoundOn">Address of the page it stands on, where that is known.</param>
public sealed record InspectRequest(string? Url, string? FoundOn = null);

/// <summary>Several URLs to be read back, at most 1,000.</summary>
public sealed record InspectManyRequest(IReadOnlyList<string>? Urls);

/// <summary>What a snippet is to be made from.</summary>
/// <param name="Campaign">Id or name of a campaign.</param>
/// <param name="Placement">Id or name of a placement.</param>
/// <param name="Fields">Values by key or label.</param>
public sealed record SnippetRequest(string? Campaign = null, string? Placement = null, Dictionary<string, string>? Fields = null);

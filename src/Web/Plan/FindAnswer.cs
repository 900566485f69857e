namespace PreciseBeacon.Web.Plan;

/// <summary>What a text finds, by kind; at most eight of each.</summary>
public sealed record FindAnswer(
    IReadOnlyList<FoundCampaign> Campaigns,
    IReadOnlyList<FoundPlacement> Placements,
    IReadOnlyList<FoundLink> Links,
    IReadOnlyList<FoundPage> Pages
);

public sealed record FoundCampaign(Guid Id, string Name, string Value, bool Archived);

public sealed record FoundPlacement(Guid Id, string Name, string Channel, string? Publisher);

public sealed record FoundLink(Guid Id, string Title, string Url, string? Slug);

public sealed record FoundPage(string Address, string? Title);

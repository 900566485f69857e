using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.ShortLinks;

namespace PreciseBeacon.Data.Entities;

/// <summary>A link that was made. What it says is never changed afterwards.</summary>
public sealed class Link : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public string? Title { get; set; }

    /// <summary>The page's address as typed, without tags.</summary>
    public required string Destination { get; set; }

    /// <summary>The finished URL as sent.</summary>
    public required string Url { get; set; }

    /// <summary>Written values by field key, empty ones left out.</summary>
    public Dictionary<string, string> Values { get; set; } = [];

    /// <summary>Host and path of the page, as landing pages of visits are listed.</summary>
    public string Page { get; set; } = "";

    /// <summary>Finds the link by its exact tags; see <c>LinkKey</c>.</summary>
    public Guid TagsKey { get; set; }

    public TagStyle Style { get; set; }

    public int ConventionVersion { get; set; }

    public Guid? CampaignId { get; set; }

    public Campaign? Campaign { get; set; }

    public Guid? PlacementId { get; set; }

    public Placement? Placement { get; set; }

    /// <summary>Name of the person or key that made it.</summary>
    public required string CreatedBy { get; set; }

    public DateTimeOffset CreatedAt { get; set; }

    /// <summary>Set once somebody marked it as placed.</summary>
    public DateTimeOffset? PlacedAt { get; set; }

    public string? PlacedBy { get; set; }

    /// <summary>The page its short links lead to now, as typed and without tags; null while that is the page it was made for.</summary>
    public string? LeadsTo { get; set; }

    /// <summary>Its short links lead nowhere until somebody takes them up again.</summary>
    public bool Paused { get; set; }

    /// <summary>When its short links end; null for never.</summary>
    public DateTimeOffset? EndsAt { get; set; }

    /// <summary>Where its short links lead after their end, ASCII; null for nowhere.</summary>
    public string? Fallback { get; set; }

    /// <summary>Its short links end after so many uses; null where uses do not end them.</summary>
    public int? MostUses { get; set; }

    /// <summary>Uses that are left; null where uses do not end them.</summary>
    public int? UsesLeft { get; set; }

    /// <summary>Other pages its short links lead to at some times or for one kind of device, the first that holds wins: a list of <see cref="RedirectRule"/> as JSON; null for none.</summary>
    public string? Turns { get; set; }

    /// <summary>What it costs instead of what its placement does, from which day on: a list of <see cref="Core.Costs.CostRate"/> as JSON; null for none.</summary>
    public string? Rates { get; set; }

    /// <summary>Its short links answer 301, which browsers remember.</summary>
    public bool Permanent { get; set; }

    /// <summary>Its short links lead to the page without the link's tags.</summary>
    public bool WithoutTags { get; set; }

    /// <summary>Each click on its short links gets an id, filled in as <c>@{click.id}</c>, by which a server's conversion finds it.</summary>
    public bool ClickIds { get; set; }

    /// <summary>What its short links do with parameters behind them.</summary>
    public CarriedParameters Carries { get; set; }

    /// <summary>When it was last changed where its short links lead; null for never.</summary>
    public DateTimeOffset? RoutedAt { get; set; }

    /// <summary>Grows with every change of where its short links lead.</summary>
    public int RouteRevision { get; set; }

    /// <summary>Words of the workspace's own to find it by, lower case, in the order of the alphabet; they are in no address.</summary>
    public string[] Topics { get; set; } = [];

    /// <summary>Set once it is archived; its short links go on.</summary>
    public DateTimeOffset? RetiredAt { get; set; }

    /// <summary>People's clicks and scans on its short links, kept up to date with every hit that is worked out.</summary>
    public long Uses { get; set; }

    /// <summary>The last of them; null for none.</summary>
    public DateTimeOffset? LastUsedAt { get; set; }

    /// <summary>It has no short links; kept beside it, so that the few like that are found among very many.</summary>
    public bool IsUnshortened { get; set; }

    /// <summary>One of the pages its short links may come to is on a host no owner has approved yet, or on one that is refused; they answer 404.</summary>
    public bool IsWaiting { get; set; }

    public List<ShortLink> ShortLinks { get; set; } = [];
}

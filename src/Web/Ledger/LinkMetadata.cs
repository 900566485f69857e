using PreciseBeacon.Core.Links;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Where a link is kept and what it is called, as history keeps it; nothing of it is in its address.</summary>
/// <param name="Title">What it is called.</param>
/// <param name="CampaignId">The campaign it belongs to, or null.</param>
/// <param name="Campaign">The campaign's name at the time.</param>
/// <param name="Topics">Its topics.</param>
/// <param name="RetiredAt">When it was archived; null while it is not.</param>
public sealed record LinkMetadata(
    string? Title,
    Guid? CampaignId,
    string? Campaign,
    IReadOnlyList<string> Topics,
    DateTimeOffset? RetiredAt
)
{
    /// <summary>The name of such entries in history.</summary>
    public const string What = "link-filing";

    public static LinkMetadata Of(Link link, string? campaign) => new(link.Title, link.CampaignId, campaign, link.Topics, link.RetiredAt);
}

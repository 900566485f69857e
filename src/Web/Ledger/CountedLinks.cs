namespace PreciseBeacon.Web.Ledger;

/// <summary>Links with their uses, told apart by what the Ledger groups them by.</summary>
public sealed class CountedLinks
{
    public Guid? CampaignId { get; init; }

    public Guid? PlacementId { get; init; }

    public required string State { get; init; }

    public int Links { get; init; }

    public long Uses { get; init; }
}

namespace PreciseBeacon.Core.Composing;

/// <summary>A link that is in the Ledger already, with exactly the URL of one that is to be made.</summary>
public sealed record ExistingLink(Guid Id, string Title, string? ShortUrl)
{
    /// <summary>Whether it can stand in for the new one: a link without a short link can't where a short link is wanted.</summary>
    public bool CanStandIn(bool needsShortLink) => !needsShortLink || ShortUrl is not null;
}

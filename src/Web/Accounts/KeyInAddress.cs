namespace PreciseBeacon.Web.Accounts;

/// <summary>Marks an endpoint for tools that can only call a URL pattern: its key may stand in the address, and it answers in one plain line.</summary>
public sealed record KeyInAddress
{
    /// <summary>The mark of the endpoint a request is for; null where there is none.</summary>
    public static KeyInAddress? Of(HttpContext context) => context.GetEndpoint()?.Metadata.GetMetadata<KeyInAddress>();
}

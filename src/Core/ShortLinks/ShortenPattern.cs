using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.ShortLinks;

/// <summary>The address that tools shorten by which can only put a long URL behind a pattern.</summary>
public static class ShortenPattern
{
    /// <summary>The call's path.</summary>
    public const string Path = "/api/v1/shorten";

    /// <summary>The pattern to paste into such a tool; the long URL is put at its end.</summary>
    /// <param name="publicUrl">Where people reach the application.</param>
    /// <param name="placement">Name of a placement, or null.</param>
    /// <param name="campaign">Name of a campaign, or null.</param>
    public static string For(string publicUrl, string? placement, string? campaign) =>
        $"{publicUrl.TrimEnd('/')}{Path}?key=YOUR-KEY"
        + (placement is null ? "" : $"&placement={PercentEncoding.EncodeValue(placement)}")
        + (campaign is null ? "" : $"&campaign={PercentEncoding.EncodeValue(campaign)}")
        + "&url=";
}

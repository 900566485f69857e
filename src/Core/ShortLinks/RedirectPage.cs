using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;

namespace PreciseBeacon.Core.ShortLinks;

/// <summary>A page that a short link may be led to after it was made.</summary>
public static class RedirectPage
{
    /// <summary>Reads the page; only own and approved hosts are taken.</summary>
    /// <param name="address">The address as typed.</param>
    /// <param name="what">Begins the rule of a refusal, as in “fallback”.</param>
    /// <param name="facts">What is known about the outside.</param>
    public static Outcome<Destination> Accept(string address, string what, LinkFacts facts)
    {
        var reading = DestinationReader.Read(address);
        return reading.Destination is not { } page
                ? Refusal.Unacceptable(
                    $"{what}-refused",
                    reading.Notices is [var first, ..] ? first.Message : $"“{address}” isn't a web address."
                )
            : facts.WhyRefused(page.HostAndPort) is { } refused ? Refusal.Unacceptable("host-refused", refused)
            : !facts.IsOwnOrApproved(page.HostAndPort)
                ? Refusal.Unacceptable(
                    "host-not-approved",
                    $"{page.HostAndPort} is neither one of your sites nor approved; ask an owner to approve it first."
                )
            : page;
    }
}

using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.ShortLinks;

/// <summary>All pages a short link may come to: its own, those it takes turns with, and the one after its end.</summary>
public static class LinkPages
{
    /// <summary>Whether a link's short links wait: as long as one of their pages is on a host that is neither own nor approved, or refused.</summary>
    /// <param name="facts">Which hosts may be led to.</param>
    /// <param name="target">Where it leads, ASCII.</param>
    /// <param name="fallback">Where it leads after its end, ASCII; null for nowhere.</param>
    /// <param name="turns">Its turns as stored; null for none.</param>
    public static bool Wait(LinkFacts facts, string target, string? fallback, string? turns)
    {
        string[] pages = [target, .. fallback is null ? [] : new[] { fallback }, .. RedirectRule.Read(turns).Select(t => t.Target)];
        return !pages.All(p => DestinationReader.Read(p).Destination is { } page && facts.IsOwnOrApproved(page.HostAndPort));
    }
}

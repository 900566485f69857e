using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing.Checks;

/// <summary>Where a link leads: to a blocked host, one nobody approved yet, or by http where https answers.</summary>
internal static class HostCheck
{
    public static IEnumerable<Notice> Run(LinkContext link)
    {
        if (link is not { Destination: { } destination, Facts: { } facts })
        {
            yield break;
        }

        string host = destination.HostAndPort;
        if (facts.WhyRefused(host) is { } refused)
        {
            yield return Notice.Of(facts.ShortHosts.Contains(host) ? NoticeRules.LeadsToShortLink : NoticeRules.HostRefused, null, refused);
        }
        else if (!facts.IsOwnOrApproved(host))
        {
            yield return Notice.Of(
                NoticeRules.HostNotApproved,
                null,
                $"{host} is neither one of your sites nor approved; its short link waits until an owner approves the host."
            );
        }

        if (destination.Scheme == "http" && facts.HttpsHosts.Contains(host))
        {
            yield return Notice.Of(
                NoticeRules.HttpWhereHttps,
                null,
                $"{host} answers https; with http the visit may lose its referrer.",
                new Repair(null, "https" + destination.Shown["http".Length..], "Use https")
            );
        }
    }
}

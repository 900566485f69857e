namespace PreciseBeacon.Core.Channels;

/// <summary>What the channels table is asked about: one arrival, or a link as it will arrive.</summary>
/// <param name="Source">Written source; empty without one.</param>
/// <param name="Medium">Written medium; empty without one.</param>
/// <param name="Campaign">Written campaign; empty without one.</param>
/// <param name="ReferrerHost">The referrer's host; empty without one.</param>
/// <param name="Kind">The referrer's kind.</param>
/// <param name="Tagged">Whether any tag was there.</param>
/// <param name="Printed">Whether it came through a printed code; a link does not know yet.</param>
public sealed record ChannelFacts(
    string Source,
    string Medium,
    string Campaign,
    string ReferrerHost,
    ReferrerKind Kind,
    bool Tagged,
    bool Printed = false
)
{
    /// <summary>A link with these words, as it arrives without a referrer.</summary>
    public static ChannelFacts OfLink(string source, string medium, string campaign) =>
        new(source, medium, campaign, "", ReferrerKind.None, source.Length + medium.Length + campaign.Length > 0);

    /// <summary>What a condition sees of its subject.</summary>
    public string TextOf(ChannelSubject subject) =>
        subject switch
        {
            ChannelSubject.Source => Source,
            ChannelSubject.Medium => Medium,
            ChannelSubject.Campaign => Campaign,
            ChannelSubject.Referrer => ReferrerHost,
            ChannelSubject.Tagged => Tagged ? "yes" : "no",
            ChannelSubject.Printed => Printed ? "yes" : "no",
            _ => Kind.ToString(),
        };
}

using static PreciseBeacon.Core.Channels.ChannelSubject;
using static PreciseBeacon.Core.Channels.ChannelTest;

namespace PreciseBeacon.Core.Channels;

/// <summary>
/// The channels a new workspace begins with. Names, order and groups are ours; the medium words behind them are the
/// trade's (common practice). The owner can change all of it.
/// </summary>
public static class StartingChannels
{
    private const string Paid = "paid";
    private const string Own = "own";
    private const string Printed = "printed";
    private const string Found = "found";

    public static ChannelTable Table { get; } =
        new([
            Row("Search ads", Paid, When(Medium, Is, "cpc", "ppc", "paid_search", "sem")),
            Row("Social ads", Paid, When(Medium, Is, "paid_social", "social_paid", "social_ads")),
            Row("Banners", Paid, When(Medium, Is, "banner", "display", "cpm")),
            Row("Film", Paid, When(Medium, Is, "video", "film")),
            Row("Podcast and radio", Paid, When(Medium, Is, "podcast", "audio", "radio")),
            Row("Affiliates", Paid, When(Medium, Is, "affiliate", "affiliates")),
            Row("Partners", Own, When(Medium, Is, "referral", "partner")),
            Row("Newsletter and mail", Own, When(Medium, Is, "email", "newsletter")),
            Row("Text message", Own, When(Medium, Is, "sms", "text")),
            Row("App notice", Own, When(Medium, Is, "push", "app")),
            Row("Print and codes", Printed, When(Medium, Is, "qr", "print")),
            Row("Communities", Own, When(Medium, Is, "community", "group", "forum")),
            Row("Own social posts", Own, When(Medium, Is, "social", "organic_social")),
            Row(
                "Found by search",
                Found,
                When(Tagged, Is, "no"),
                When(ChannelSubject.ReferrerKind, Is, nameof(Channels.ReferrerKind.SearchEngine))
            ),
            Row(
                "Found on networks",
                Found,
                When(Tagged, Is, "no"),
                When(ChannelSubject.ReferrerKind, Is, nameof(Channels.ReferrerKind.SocialNetwork))
            ),
            Row(
                "Mail without tags",
                Found,
                When(Tagged, Is, "no"),
                When(ChannelSubject.ReferrerKind, Is, nameof(Channels.ReferrerKind.Mail))
            ),
            Row(
                "Other sites",
                Found,
                When(Tagged, Is, "no"),
                When(ChannelSubject.ReferrerKind, Is, nameof(Channels.ReferrerKind.OtherSite))
            ),
            Row("Direct", Found, When(Tagged, Is, "no"), When(Referrer, Empty)),
        ]);

    private static Channel Row(string name, string group, params ChannelCondition[] conditions) => new(name, group, conditions);

    private static ChannelCondition When(ChannelSubject subject, ChannelTest test, params string[] values) => new(subject, test, values);
}

using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Document;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Demo;

/// <summary>What Marrowmere Botanic Garden plans: campaigns, placements, pages and words. All names are invented.</summary>
public static class DemoPlan
{
    /// <summary>A campaign with its days counted from today; null days mean always on.</summary>
    /// <param name="Name">Its name.</param>
    /// <param name="Word">What its value ends in.</param>
    /// <param name="Page">Path of its main page.</param>
    /// <param name="From">First day, from today.</param>
    /// <param name="To">Last day, from today.</param>
    /// <param name="Weight">Share of traffic while it runs.</param>
    /// <param name="Kind">Kind of its conversions.</param>
    /// <param name="Price">Value of one.</param>
    /// <param name="Department">Who runs it.</param>
    /// <param name="Audience">Whom it is for.</param>
    /// <param name="Region">Where they live.</param>
    /// <param name="Owner">Who looks after it.</param>
    /// <param name="Budget">In euro, or null.</param>
    /// <param name="Goal">What it is to bring, in words.</param>
    public sealed record PlannedCampaign(
        string Name,
        string Word,
        string Page,
        int? From,
        int? To,
        double Weight,
        string Kind,
        decimal Price,
        string Department,
        string Audience,
        string Region,
        string Owner,
        decimal? Budget,
        string? Goal
    )
    {
        /// <summary>What its pages sell, as the garden's shop calls it.</summary>
        public string Product => $"{Name} {Kind}";
    }

    /// <summary>Mediums whose links somebody posts with a text.</summary>
    public static readonly string[] PostedMediums = ["social", "community"];

    /// <summary>The campaign whose texts nobody has posted yet.</summary>
    public const string CampaignToPost = "Lantern Nights";

    /// <summary>A placement.</summary>
    /// <param name="Converts">How often its visits convert, beside the average of 1.</param>
    public sealed record PlannedPlacement(
        string Name,
        string Channel,
        string Source,
        string Medium,
        string? Content,
        decimal? CostPerClick,
        double Weight,
        double Converts,
        string Device
    )
    {
        public string? Publisher { get; init; }

        public string[] Tags { get; init; } = [];

        public int[] UseDays { get; init; } = [];

        public string? UseForm { get; init; }

        public string? ShareForm { get; init; }

        public decimal? FixedCost { get; init; }
    }

    /// <summary>An attribute of campaigns with its values.</summary>
    public static IReadOnlyList<(string Name, string[] Values)> Attributes { get; } =
    [
        ("department", ["Events", "Membership", "Shop", "Learning"]),
        ("audience", ["families", "members", "schools", "growers"]),
        ("region", ["north", "city", "coast", "abroad"]),
    ];

    /// <summary>Placements that are picked as one, by the tag they share.</summary>
    public static IReadOnlyList<(string Name, string Tag)> Sets { get; } =
    [("Community groups", "group"), ("Posters", "poster"), ("The Trellis", "trellis")];

    /// <summary>The link that still leads to an old address of its page, whose redirect loses the tags.</summary>
    public const string LosingCampaign = "Lantern Nights";
    public const string LosingPlacement = "Garden app notice";
    public const string OldPage = "/lanterns";

    /// <summary>
    /// Placements tried with two contents, half of their visitors each: one pair with a clear winner and one too close to call. Beside the
    /// content of the second, how often the visits of the first and of the second convert, next to what is usual there.
    /// </summary>
    public static IReadOnlyList<(string Campaign, string Placement, string Content, double First, double Second)> Variants { get; } =
    [
        ("Lantern Nights", "The Trellis – header button", "stove_house", 0.3, 2.4),
        ("Lantern Nights", "Nattervine page", "lake_at_dusk", 1, 1),
    ];

    /// <summary>Links of the campaign still ahead, by placement and content; null where nobody knows the page yet.</summary>
    public static IReadOnlyList<(string Placement, string? Page, string? Content, int DueBefore)> PlannedForOrchidWeek { get; } =
    [
        ("The Trellis – header button", "/orchid-week", null, 21),
        ("The Trellis – footer link", "/orchid-week", "talks", 21),
        ("Nattervine page", "/orchid-week", "first_bloom", 14),
        ("Gate poster", "/orchid-week", null, 30),
        ("Pippinwall growers’ group", "/orchid-week", null, 10),
        ("Members’ mail", null, "members_evening", 18),
    ];

    /// <summary>The share text of Lantern Nights.</summary>
    public const string LanternText =
        "Paper lanterns along the lake, mulled cider in the stove house: Lantern Nights at the garden, until Christmas.\n@{link}";

    /// <summary>Titles of the garden's pages that no campaign names.</summary>
    public static IReadOnlyList<(string Path, string Title)> OtherTitles { get; } =
    [("/", "Marrowmere Botanic Garden"), ("/visit", "Plan your visit"), ("/shop", "Shop"), ("/news", "News")];

    public static IReadOnlyList<PlannedCampaign> Campaigns { get; } =
    [
        new(
            "Lantern Nights",
            "lantern_nights",
            "/lantern-nights",
            -56,
            26,
            5.0,
            "ticket",
            18.50m,
            "Events",
            "families",
            "city",
            "Tomas Birch",
            6500m,
            "Sell out the four weekend evenings; 3,000 tickets in all."
        ),
        new(
            "Winter Wreath Workshops",
            "wreath_workshops",
            "/wreath-workshops",
            -20,
            18,
            2.2,
            "workshop",
            42.00m,
            "Learning",
            "members",
            "city",
            "Orla Fenwick",
            900m,
            "Fill all twelve workshops, members first."
        ),
        new(
            "Bulb Sale",
            "bulb_sale",
            "/bulb-sale",
            -85,
            -30,
            1.8,
            "ticket",
            23.00m,
            "Shop",
            "growers",
            "abroad",
            "Tomas Birch",
            1800m,
            "Clear the lifted bulbs before the frost."
        ),
        new(
            "Summer Membership Drive",
            "membership_drive",
            "/membership",
            -178,
            -90,
            2.6,
            "membership",
            65.00m,
            "Membership",
            "families",
            "coast",
            "Orla Fenwick",
            4200m,
            "Six hundred new members from the coast."
        ),
        new(
            "Night Moths Walk",
            "night_moths",
            "/night-moths",
            -150,
            -110,
            1.4,
            "ticket",
            12.00m,
            "Events",
            "families",
            "north",
            "Tomas Birch",
            400m,
            "Twenty people on every walk."
        ),
        new(
            "Orchid Week",
            "orchid_week",
            "/orchid-week",
            70,
            77,
            0,
            "ticket",
            16.00m,
            "Events",
            "growers",
            "city",
            "Orla Fenwick",
            2500m,
            "Bring growers from further away than an hour."
        ),
        new(
            "Seed Swap",
            "seed_swap",
            "/seed-swap",
            -62,
            -44,
            1.0,
            "newsletter",
            0m,
            "Learning",
            "growers",
            "north",
            "Tomas Birch",
            150m,
            null
        ),
        new(
            "Spring Plant Fair",
            "plant_fair",
            "/plant-fair",
            -225,
            -204,
            2.4,
            "ticket",
            9.50m,
            "Shop",
            "growers",
            "north",
            "Orla Fenwick",
            1600m,
            "Two thousand visitors on the fair’s weekend."
        ),
        new(
            "Snowdrop Weekends",
            "snowdrop_weekends",
            "/snowdrops",
            -300,
            -272,
            1.6,
            "ticket",
            11.00m,
            "Events",
            "families",
            "coast",
            "Tomas Birch",
            700m,
            "Full car parks on all four weekends."
        ),
        new(
            "Wassail Evening",
            "wassail_evening",
            "/wassail",
            -335,
            -316,
            1.2,
            "ticket",
            14.00m,
            "Events",
            "members",
            "city",
            "Tomas Birch",
            350m,
            null
        ),
        new(
            "Apple Day",
            "apple_day",
            "/apple-day",
            -410,
            -388,
            2.0,
            "ticket",
            8.00m,
            "Shop",
            "growers",
            "north",
            "Orla Fenwick",
            1100m,
            "A ton of apples brought to the press."
        ),
        new(
            "Rose Garden Concerts",
            "rose_concerts",
            "/rose-concerts",
            -538,
            -489,
            2.2,
            "ticket",
            24.00m,
            "Events",
            "members",
            "coast",
            "Orla Fenwick",
            2800m,
            "Three evenings, four hundred seats each."
        ),
        new(
            "School Visits",
            "school_visits",
            "/schools",
            null,
            null,
            0.8,
            "workshop",
            120.00m,
            "Learning",
            "schools",
            "north",
            "Orla Fenwick",
            null,
            "Two classes a week in term time."
        ),
        new(
            "Volunteer Call",
            "volunteer_call",
            "/volunteer",
            null,
            null,
            0.6,
            "newsletter",
            0m,
            "Membership",
            "members",
            "city",
            "Orla Fenwick",
            null,
            null
        ),
    ];

    public static IReadOnlyList<PlannedPlacement> Placements { get; } =
    [
        new("The Trellis – header button", "Newsletter and mail", "the_trellis", "email", "header_button", null, 3.0, 1.5, "mixed")
        {
            Tags = ["trellis", "mail"],
            Publisher = "The Trellis",
        },
        new("The Trellis – footer link", "Newsletter and mail", "the_trellis", "email", "footer_link", null, 1.0, 1.0, "mixed")
        {
            Tags = ["trellis", "mail"],
            Publisher = "The Trellis",
        },
        new("Members’ mail", "Newsletter and mail", "members_mail", "email", null, null, 1.6, 2.2, "mixed"),
        new("SMS reminder", "Text message", "garden_sms", "sms", null, null, 0.8, 1.8, "phone"),
        new("Nattervine page", "Own social posts", "nattervine", "social", "page_post", null, 2.0, 0.6, "phone")
        {
            Publisher = "Nattervine",
        },
        new("Pippinwall growers’ group", "Communities", "pippinwall", "community", "growers_group", null, 1.1, 1.1, "mixed")
        {
            Publisher = "Pippinwall",
            Tags = ["group"],
            UseForm = "post",
        },
        new("Pippinwall lakeside walkers", "Communities", "pippinwall", "community", "lakeside_walkers", null, 0.25, 0.8, "phone")
        {
            Publisher = "Pippinwall",
            Tags = ["group"],
            UseDays = [4, 5],
            UseForm = "post",
        },
        new("Nattervine families up north", "Communities", "nattervine", "community", "families_north", null, 0.3, 1.0, "phone")
        {
            Publisher = "Nattervine",
            Tags = ["group"],
            UseForm = "post",
            ShareForm = "Hello everyone!\n@{text}",
        },
        new("Nattervine city gardeners", "Communities", "nattervine", "community", "city_gardeners", null, 0.3, 1.2, "mixed")
        {
            Publisher = "Nattervine",
            Tags = ["group"],
            UseDays = [6, 7],
            UseForm = "comment",
        },
        new("Skeinly night watchers", "Communities", "skeinly", "community", "night_watchers", null, 0.15, 0.9, "phone")
        {
            Publisher = "Skeinly",
            Tags = ["group"],
            UseForm = "post",
        },
        new("Skeinly paid posts", "Social ads", "skeinly", "paid_social", "paid_post", 0.62m, 1.8, 0.25, "phone"),
        new("Wendfar search ads", "Search ads", "wendfar", "cpc", null, 0.48m, 2.4, 1.2, "mixed"),
        new("Brackenford Herald banner", "Banners", "brackenford_herald", "banner", "leaderboard", 0.35m, 1.0, 0.4, "computer")
        {
            Publisher = "Brackenford Herald",
        },
        new("Vale Visitor Board", "Partners", "vale_visitor_board", "referral", null, null, 0.9, 1.3, "mixed")
        {
            Publisher = "Vale Visitor Board",
        },
        new("Mossgate Guide", "Affiliates", "mossgate_guide", "affiliate", null, 0.20m, 0.6, 1.0, "mixed") { Publisher = "Mossgate Guide" },
        new("Underleaf Hour", "Podcast and radio", "underleaf_hour", "podcast", null, null, 0.3, 3.4, "phone")
        {
            Publisher = "Underleaf Hour",
            FixedCost = 180m,
        },
        new("Gate poster", "Print and codes", "gate_poster", "qr", null, null, 0.9, 0.9, "phone")
        {
            Tags = ["poster", "print"],
            FixedCost = 60m,
        },
        new("Station poster", "Print and codes", "station_poster", "qr", null, null, 0.7, 0.7, "phone")
        {
            Tags = ["poster", "print"],
            FixedCost = 240m,
        },
        new("Nattervine paid posts", "Social ads", "nattervine", "paid_social", "paid_post", 0.55m, 1.1, 0.9, "phone"),
        new("Wendfar shopping ads", "Search ads", "wendfar", "cpc", "shopping", 0.39m, 0.9, 1.0, "mixed"),
        new("Pippinwall page", "Own social posts", "pippinwall", "social", "page_post", null, 0.7, 0.8, "mixed")
        {
            Publisher = "Pippinwall",
        },
        new("Skeinly page", "Own social posts", "skeinly", "social", "page_post", null, 0.5, 0.5, "phone") { Publisher = "Skeinly" },
        new("Garden app notice", "App notice", "garden_app", "push", null, null, 0.6, 1.6, "phone"),
        new("Brackenford Herald article", "Partners", "brackenford_herald", "referral", "days_out", null, 0.6, 1.1, "computer")
        {
            Publisher = "Brackenford Herald",
        },
        new("Underleaf Hour show notes", "Podcast and radio", "underleaf_hour", "podcast", "show_notes", null, 0.2, 1.9, "mixed")
        {
            Publisher = "Underleaf Hour",
        },
        new("Café poster", "Print and codes", "cafe_poster", "qr", null, null, 0.4, 1.0, "phone")
        {
            Tags = ["poster", "print"],
            FixedCost = 25m,
        },
        new("Plant labels", "Print and codes", "plant_label", "qr", null, null, 0.5, 0.5, "phone") { Tags = ["print"] },
        new("Seed packets", "Print and codes", "seed_packet", "qr", null, null, 0.3, 0.7, "phone") { Tags = ["print"] },
        new("Leaflet rack", "Print and codes", "leaflet", "qr", null, null, 0.3, 0.6, "phone") { Tags = ["print"], FixedCost = 90m },
        new("Shop-window display", "Print and codes", "shop_window", "qr", null, null, 0.25, 0.4, "phone")
        {
            Tags = ["print"],
            FixedCost = 40m,
        },
    ];

    /// <summary>Mediums of ads whose platforms want the long link: their placeholders are filled in there.</summary>
    public static IReadOnlyList<string> LongLinkMediums { get; } = ["cpc", "banner", "paid_social"];

    /// <summary>Pages of the orchard's own, small website; it keeps no ids.</summary>
    public static IReadOnlyList<string> OrchardPages { get; } = ["/", "/picnic", "/cider"];

    /// <summary>What crawlers call themselves, by invented names of the usual kinds.</summary>
    public static IReadOnlyList<string> Crawlers { get; } =
    [
        "Mozilla/5.0 (compatible; Wendfarbot/2.1; +https://wendfar.example/bot.html)",
        "Mozilla/5.0 (compatible; MossgateCrawler/1.4; +https://mossgate.example/crawler)",
        "Brackenford-Feed-Spider/0.9 (https://brackenford-herald.example/)",
        "",
    ];

    /// <summary>Sources of the past.</summary>
    public static IReadOnlyList<WordDocument> RetiredSources { get; } =
    [
        new()
        {
            Written = "fernpost",
            Label = "Fernpost",
            Retired = true,
            Successor = "nattervine",
        },
    ];

    /// <summary>Mediums that go with the networks.</summary>
    public static IReadOnlyList<ChoiceDocument> Choices { get; } =
    [
        new()
        {
            Field = StandardKeys.Source,
            Word = "nattervine",
            Narrows = StandardKeys.Medium,
            To = ["social", "paid_social", "community"],
        },
        new()
        {
            Field = StandardKeys.Source,
            Word = "skeinly",
            Narrows = StandardKeys.Medium,
            To = ["social", "paid_social", "community"],
        },
        new()
        {
            Field = StandardKeys.Source,
            Word = "wendfar",
            Narrows = StandardKeys.Medium,
            To = ["cpc"],
        },
    ];

    /// <summary>Known misspellings by source.</summary>
    public static IReadOnlyDictionary<string, string[]> SourceAliases { get; } =
        new Dictionary<string, string[]>
        {
            ["the_trellis"] = ["trellis", "newsletter trellis"],
            ["nattervine"] = ["natter vine", "natter-vine"],
            ["brackenford_herald"] = ["herald"],
            ["vale_visitor_board"] = ["visitor board"],
        };

    /// <summary>Paths of the garden's pages beside those of campaigns.</summary>
    public static IReadOnlyList<string> OtherPages { get; } = ["/", "/visit", "/shop", "/news"];

    /// <summary>The link on the first page that leads to the shop: somebody tagged it, which links inside one's own site should not be.</summary>
    public const string TaggedInside = "?utm_source=homepage&utm_medium=teaser";

    /// <summary>Countries of visitors with their shares and the languages their browsers ask for; nothing is known of the rest.</summary>
    public static IReadOnlyList<(string Country, double Share, string Language)> Countries { get; } =
    [("IE", 0.68, "en"), ("IE", 0.04, "ga"), ("GB", 0.11, "en"), ("FR", 0.05, "fr"), ("DE", 0.05, "de"), ("ES", 0.03, "es")];

    /// <summary>The poster whose code somebody pasted into a mail.</summary>
    public const string PastedPlacement = "Station poster";
    public const string PastedCampaign = "School Visits";
    public const string PastedInto = "https://mail.nattervine.example/inbox";
    public const int PastedSince = 60;

    /// <summary>Outside sites that send untagged visits; empty for direct ones.</summary>
    public static IReadOnlyList<(string Referrer, double Weight)> Untagged { get; } =
    [
        ("", 4.0),
        ("https://wendfar.example/", 5.0),
        ("https://nattervine.example/", 1.2),
        ("https://brackenford-herald.example/days-out", 0.8),
        ("https://vale-schools.example/links", 0.4),
    ];

    /// <summary>What kind of site each is; no open data set knows invented ones.</summary>
    public static IReadOnlyList<ReferrerDocument> Sites { get; } =
    [
        new() { Host = "wendfar.example", Kind = ReferrerKind.SearchEngine },
        new() { Host = "nattervine.example", Kind = ReferrerKind.SocialNetwork },
        new() { Host = "pippinwall.example", Kind = ReferrerKind.SocialNetwork },
        new() { Host = "skeinly.example", Kind = ReferrerKind.SocialNetwork },
    ];

    /// <summary>Tags nobody agreed to, as they really arrive.</summary>
    public static IReadOnlyList<string> Strays { get; } =
    [
        "?utm_source=the_trellis&utm_medium=E-mail&utm_campaign=lanternnights",
        "?utm_source=natter%20vine&utm_medium=social&utm_campaign=lanternnights",
        "?utm_source=email&utm_medium=the_trellis&utm_campaign=lantern_nights",
        "?ref=group?utm_source=pippinwall&utm_medium=social&utm_campaign=seed_swap",
        "?utm_soruce=skeinly&utm_medium=social&utm_campaign=volunteer_call",
    ];
}

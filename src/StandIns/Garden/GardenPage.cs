namespace PreciseBeacon.StandIns.Garden;

/// <summary>A page of the garden's website.</summary>
/// <param name="Path">Its path.</param>
/// <param name="Title">Its title.</param>
/// <param name="Text">A sentence or two.</param>
/// <param name="Offer">What can be booked there, or null.</param>
public sealed record GardenPage(string Path, string Title, string Text, GardenOffer? Offer = null)
{
    public static IReadOnlyList<GardenPage> All { get; } =
    [
        new("/", "Marrowmere Botanic Garden", "Forty acres of glasshouses, meadow and old orchard, open all year."),
        new("/visit", "Plan your visit", "Open daily from ten until dusk. The lakeside path is level and paved."),
        new(
            "/lantern-nights",
            "Lantern Nights",
            "Paper lanterns along the lake, mulled cider in the stove house. Evenings until Christmas.",
            new("ticket", "Lantern Nights ticket", 18.50m)
        ),
        new(
            "/wreath-workshops",
            "Winter Wreath Workshops",
            "Wind your own wreath from what the garden grows. All tools are there.",
            new("workshop", "Wreath workshop place", 42.00m)
        ),
        new(
            "/bulb-sale",
            "Bulb Sale",
            "Two hundred kinds of bulb, lifted and cleaned by our own gardeners.",
            new("ticket", "Bulb box", 23.00m)
        ),
        new(
            "/membership",
            "Membership",
            "A year of free entry, the members’ mail, and ten per cent off in the shop.",
            new("membership", "Membership for a year", 65.00m)
        ),
        new(
            "/night-moths",
            "Night Moths Walk",
            "A lamp, a sheet and an entomologist: see who comes at night.",
            new("ticket", "Night Moths ticket", 12.00m)
        ),
        new(
            "/orchid-week",
            "Orchid Week",
            "The orchid house in full bloom, with talks every afternoon.",
            new("ticket", "Orchid Week ticket", 16.00m)
        ),
        new("/seed-swap", "Seed Swap", "Bring what you have saved, take home what you have not."),
        new(
            "/schools",
            "School Visits",
            "Half a day among carnivorous plants, with a teacher’s pack.",
            new("workshop", "School visit", 120.00m)
        ),
        new("/volunteer", "Volunteer Call", "Four hours a month among people who like soil."),
        new(
            "/plant-fair",
            "Spring Plant Fair",
            "Nurseries from all over the county, and our own seedlings.",
            new("ticket", "Plant Fair ticket", 9.50m)
        ),
        new("/snowdrops", "Snowdrop Weekends", "Sixty kinds of snowdrop under the old beeches.", new("ticket", "Snowdrop ticket", 11.00m)),
        new("/wassail", "Wassail Evening", "Songs, torches and toast for the oldest apple tree.", new("ticket", "Wassail ticket", 14.00m)),
        new("/apple-day", "Apple Day", "Bring your apples, take home the juice.", new("ticket", "Apple Day ticket", 8.00m)),
        new("/rose-concerts", "Rose Garden Concerts", "Chamber music among four hundred roses.", new("ticket", "Concert ticket", 24.00m)),
        new("/shop", "Shop", "Seeds, tools and the garden’s own honey."),
        new("/news", "News", "What flowers now, and what the gardeners are up to."),
    ];
}

/// <summary>Something that can be bought on a page.</summary>
/// <param name="Kind">Kind of the conversion.</param>
/// <param name="Name">What it is.</param>
/// <param name="Price">In euro.</param>
public sealed record GardenOffer(string Kind, string Name, decimal Price);

using PreciseBeacon.Core.Conventions.Document;

namespace PreciseBeacon.Core.Conventions.Starting;

/// <summary>The fields starting conventions are made of. Medium words are the trade's own (common practice).</summary>
internal static class StartingFields
{
    public const string Format = "utm_format";
    public const string Region = "utm_region";

    public static FieldDocument Source { get; } =
        new()
        {
            Key = StandardKeys.Source,
            Label = "Source",
            Presence = Presence.Required,
            List = ListKind.Open,
            Hint = "Who sends the visitor: the newsletter, network, site or place.",
            Example = "the_trellis",

            // Those of the starting placements; others are added as they come up.
            Words =
            [
                Word("newsletter", "Newsletter"),
                Word("own_list", "Own list of numbers"),
                Word("own_page", "Own page in a network"),
                Word("search", "Search engine"),
                Word("poster", "Poster"),
            ],
        };

    public static FieldDocument Medium { get; } =
        new()
        {
            Key = StandardKeys.Medium,
            Label = "Medium",
            Presence = Presence.Required,
            List = ListKind.Closed,
            Hint = "The kind of traffic; one of the list, so that channels can be told apart.",
            Example = "email",
            Words =
            [
                Word("email", "Newsletter and mail", "e-mail", "mail", "newsletter"),
                Word("sms", "Text message", "text", "text message"),
                Word("push", "App notice", "app"),
                Word("social", "Own social posts", "social media", "organic social"),
                Word("community", "Communities", "group", "forum"),
                Word("paid_social", "Social ads", "social ads", "social paid"),
                Word("cpc", "Search ads", "ppc", "paid search"),
                Word("banner", "Banners", "display"),
                Word("video", "Film", "film"),
                Word("affiliate", "Affiliates", "affiliates"),
                Word("referral", "Partners", "partner"),
                Word("podcast", "Podcast and radio", "audio"),
                Word("qr", "Print and codes", "qrcode", "qr code", "print"),
            ],
        };

    public static FieldDocument Campaign { get; } =
        new()
        {
            Key = StandardKeys.Campaign,
            Label = "Campaign",
            Presence = Presence.Required,
            Hint = "Set by the chosen campaign.",
            Example = "lantern_nights",
        };

    public static FieldDocument Content { get; } =
        new()
        {
            Key = StandardKeys.Content,
            Label = "Content",
            Hint = "What tells two links in the same spot apart, such as the button or the picture.",
            Example = "header_button",
        };

    public static FieldDocument Term { get; } =
        new()
        {
            Key = StandardKeys.Term,
            Label = "Term",
            Hint = "The keyword, for search ads.",
            Example = "autumn evenings out",
        };

    public static FieldDocument Id { get; } =
        new()
        {
            Key = StandardKeys.Id,
            Label = "Id",
            HoldsNumbers = true,
            Hint = "A number of your own for the campaign, if another system needs one.",
            Example = "4711",
        };

    /// <summary>A place of its own for format and size, so that they stay out of the medium.</summary>
    public static FieldDocument FormatAndSize { get; } =
        new()
        {
            Key = Format,
            Label = "Format and size",
            List = ListKind.Open,
            Hint = "Format or size of the advertisement; it doesn't belong in the medium.",
            Example = "300x250",
            Words =
            [
                Word("300x250", "Box 300 × 250"),
                Word("728x90", "Wide 728 × 90"),
                Word("square", "Square picture"),
                Word("upright", "Upright picture"),
                Word("film", "Short film"),
                Word("text", "Text only"),
            ],
        };

    public static FieldDocument RegionList { get; } =
        new()
        {
            Key = Region,
            Label = "Region",
            List = ListKind.Closed,
            Hint = "Who the link is for; leave it empty for everybody.",
            Example = "north",
            Words =
            [
                Word("north", "North"),
                Word("south", "South"),
                Word("city", "City"),
                Word("coast", "Coast"),
                Word("abroad", "Abroad"),
            ],
        };

    private static WordDocument Word(string written, string label, params string[] aliases) =>
        new()
        {
            Written = written,
            Label = label,
            Aliases = aliases,
        };
}

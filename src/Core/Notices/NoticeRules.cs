using PreciseBeacon.Core.Composing;

namespace PreciseBeacon.Core.Notices;

/// <summary>Every rule that can speak about a link, with its usual severity and an example.</summary>
public static class NoticeRules
{
    public static readonly NoticeRule DestinationRefused = Guard(
        "destination-refused",
        "The page's address can't be used as a destination.",
        "mailto:garden@marrowmere.example"
    );
    public static readonly NoticeRule SchemeAdded = Info(
        "scheme-added",
        "The address had no scheme; https:// was put before it.",
        "marrowmere.example/visit"
    );
    public static readonly NoticeRule AddressTrimmed = Info(
        "address-trimmed",
        "White space or invisible characters around the address were removed.",
        "“ https://marrowmere.example/visit”"
    );
    public static readonly NoticeRule InvisibleInAddress = Warning(
        "invisible-in-address",
        "The address has an invisible character inside.",
        "a zero-width space inside the path"
    );
    public static readonly NoticeRule HostNotApproved = Warning(
        "host-not-approved",
        "The host is neither one of the workspace's sites nor approved.",
        "https://elsewhere.example/"
    );
    public static readonly NoticeRule HostRefused = Guard(
        "host-refused",
        "The host is blocked in this workspace.",
        "https://refused.example/, where an owner blocked refused.example"
    );
    public static readonly NoticeRule LeadsToShortLink = Guard(
        "leads-to-short-link",
        "The page is a short link of the workspace itself.",
        "https://mmr.example/lanterns"
    );
    public static readonly NoticeRule HttpWhereHttps = Warning(
        "http-where-https",
        "The address begins with http although the site answers https.",
        "http://marrowmere.example/"
    );
    public static readonly NoticeRule UrlLong = Warning(
        "url-long",
        "The URL is longer than 2,000 bytes (common practice).",
        "a page's query of 2,100 characters"
    );
    public static readonly NoticeRule UrlTooLong = Guard(
        "url-too-long",
        "The URL is longer than 8,000 bytes (RFC 9110, section 4.1).",
        "a page's query of 8,100 characters"
    );
    public static readonly NoticeRule SecondQuestionMark = Warning(
        "second-question-mark",
        "The query has a second question mark.",
        "…/visit?day=1?utm_source=the_trellis"
    );
    public static readonly NoticeRule AmpersandEntity = Warning(
        "ampersand-entity",
        "The query has &amp; where & was meant.",
        "?utm_source=the_trellis&amp;utm_medium=email"
    );
    public static readonly NoticeRule EncodedTwice = Warning(
        "encoded-twice",
        "A value looks percent-encoded twice.",
        "utm_content=header%2520button"
    );
    public static readonly NoticeRule DuplicateKey = Warning(
        "duplicate-key",
        "A tag's key occurs more than once.",
        "utm_source=a&utm_source=b"
    );
    public static readonly NoticeRule KeyMisspelt = Warning(
        "key-misspelt",
        "A key looks like a misspelt tag key.",
        "utm_soruce, utm-source, UTM_Source"
    );
    public static readonly NoticeRule KeyCollides = Warning(
        "key-collides",
        "The page's own address uses the key of one of the workspace's fields.",
        "…/visit?region=north, where Region is a field"
    );
    public static readonly NoticeRule KeyNotUnderstood = Info(
        "key-not-understood",
        "A system that reads the links does not understand a key.",
        "region, where the visit reports know the standard keys only"
    );
    public static readonly NoticeRule ValueCutShort = Warning(
        "value-cut-short",
        "A bare & or # inside a value cuts it short.",
        "utm_content=questions&answers, utm_content=no#1&utm_term=x"
    );
    public static readonly NoticeRule TagsReplaced = Info(
        "tags-replaced",
        "Tags the address already had were replaced.",
        "a pasted address with utm_source=old"
    );
    public static readonly NoticeRule TagsKept = Info(
        "tags-kept",
        "Tags the address already had were kept.",
        "the same, where the workspace keeps tags"
    );
    public static readonly NoticeRule TagsAlreadyThere = Error(
        "tags-already-there",
        "The address already has tags and the workspace refuses those.",
        "the same, where the workspace refuses tags"
    );
    public static readonly NoticeRule TagsAfterHash = Info(
        "tags-after-hash",
        "The tags are after the #, where not every system reads them.",
        "…/app#utm_source=the_trellis, on a site that reads its fragment"
    );
    public static readonly NoticeRule TagsHiddenInFragment = Warning(
        "tags-hidden-in-fragment",
        "The address has tags after the # although the site reads its query.",
        "…/visit#utm_source=the_trellis"
    );
    public static readonly NoticeRule TagInsideSite = Warning(
        "tag-inside-site",
        "A link from one of the workspace's pages to another has tags.",
        "utm_source=marrowmere.example on the garden's own page"
    );
    public static readonly NoticeRule ToolOverwrites = Warning(
        "tool-overwrites",
        "The placement's tool adds the same tags itself.",
        "a mail tool that adds utm_source to every link"
    );
    public static readonly NoticeRule NoTags = Warning("no-tags", "The link has no tags at all.", "https://marrowmere.example/visit");
    public static readonly NoticeRule SealedUnknown = Warning(
        "sealed-unknown",
        "A sealed link's code is not one of the workspace's.",
        "…/visit?k=ccccccccccccct"
    );
    public static readonly NoticeRule MissingRequired = Error("missing-required", "A required field has no value.", "no utm_source");
    public static readonly NoticeRule DefaultUnfilled = Error(
        "default-unfilled",
        "A default value of the placement needs something this link doesn't have.",
        "utm_content=@{region} for a campaign without a region"
    );
    public static readonly NoticeRule PartMissing = Error(
        "part-missing",
        "A composed field can't be composed, because a part is missing.",
        "a campaign's name without its region"
    );
    public static readonly NoticeRule NameDoesNotFit = Warning(
        "name-does-not-fit",
        "A composed field was typed and doesn't match its pattern.",
        "utm_campaign=lanterns, where date_channel_region is due"
    );
    public static readonly NoticeRule FixedDiffers = Warning(
        "fixed-differs",
        "A field with a fixed value was given another one.",
        "brand=other"
    );
    public static readonly NoticeRule DateUnreadable = Error(
        "date-unreadable",
        "A date field has no date, or an incomplete one.",
        "starts=soon"
    );
    public static readonly NoticeRule ChoiceUnusual = Warning(
        "choice-unusual",
        "Two words do not go together.",
        "utm_source=nattervine with utm_medium=email"
    );
    public static readonly NoticeRule FieldUnknown = Error(
        "field-unknown",
        "A value was given for a field the convention doesn't have.",
        "colour=green"
    );
    public static readonly NoticeRule EmptyValue = Warning("empty-value", "A tag is there without a value.", "utm_term=");
    public static readonly NoticeRule WordUnknown = Error(
        "word-unknown",
        "The value is not in the field's closed word list.",
        "utm_medium=pigeon"
    );
    public static readonly NoticeRule WordNew = Warning(
        "word-new",
        "The value is not in the field's open word list.",
        "utm_source=brand_new_network"
    );
    public static readonly NoticeRule AliasUsed = Info("alias-used", "An alias was written as its word.", "utm_medium=e-mail");
    public static readonly NoticeRule WordRetired = Error("word-retired", "The word is retired.", "utm_source=fernpost");
    public static readonly NoticeRule CaseChanged = Info(
        "case-changed",
        "Upper and lower case were changed as the field requires.",
        "utm_content=Header"
    );
    public static readonly NoticeRule SpaceChanged = Info(
        "space-changed",
        "Spaces were replaced or removed as the field requires.",
        "utm_content=header%20button"
    );
    public static readonly NoticeRule CharactersChanged = Info(
        "characters-changed",
        "Characters were rewritten or removed as the field requires.",
        "region=north!"
    );
    public static readonly NoticeRule CharacterRefused = Error(
        "character-refused",
        "The value has a character the field refuses.",
        "utm_id=47/11"
    );
    public static readonly NoticeRule BrokenText = Guard(
        "broken-text",
        "The value has a control character or half a character.",
        "half of an emoji"
    );
    public static readonly NoticeRule ValueTooLong = Error(
        "value-too-long",
        "The value is longer than the field allows.",
        "utm_term of 300 characters"
    );
    public static readonly NoticeRule PersonalData = Error(
        "personal-data",
        "The value looks like a mail address or a phone number.",
        "utm_content=wren@marrowmere.example"
    );
    public static readonly NoticeRule LongNumber = Warning(
        "long-number",
        "The value has a long run of digits, which may be somebody's number.",
        "utm_content=123456789012"
    );
    public static readonly NoticeRule FormatInMedium = Warning(
        "format-in-medium",
        "The medium holds a format or a size.",
        "utm_medium=banner_300x250"
    );
    public static readonly NoticeRule PlaceholderForeign = Warning(
        "placeholder-foreign",
        "The value or the page's address has a placeholder of a shape this workspace doesn't use.",
        "utm_term=[keyword]"
    );
    public static readonly NoticeRule PlaceholderOnShortLink = Warning(
        "placeholder-on-short-link",
        "A placeholder stands on a short link, where nobody fills it in.",
        "the short link of utm_term={keyword}"
    );
    public static readonly NoticeRule PlaceholderUnreadable = Warning(
        "placeholder-unreadable",
        "The value has a placeholder a standard reader can't read back.",
        "utm_term=%%keyword%%"
    );
    public static readonly NoticeRule OutsideCampaignDates = Warning(
        "outside-campaign-dates",
        "The campaign is over, or a date lies outside it.",
        "a link made after the campaign's last day"
    );
    public static readonly NoticeRule SameAsExisting = Warning(
        "same-as-existing",
        "A link with the same URL is already in the Ledger.",
        "the same link made twice"
    );
    public static readonly NoticeRule SameAsOther = Warning(
        "same-as-other",
        "Another link made here has the same tags; the two can't be told apart.",
        "two placements with equal default values"
    );
    public static readonly NoticeRule CampaignUnknown = Error(
        "campaign-unknown",
        "The campaign named doesn't exist in the workspace.",
        "a call that names “Lantern Night”"
    );
    public static readonly NoticeRule CampaignNear = Warning(
        "campaign-near",
        "The campaign's value is nearly that of a known campaign.",
        "utm_campaign=2026-10_all_lantern-nigths"
    );
    public static readonly NoticeRule PlacementUnknown = Error(
        "placement-unknown",
        "The placement named doesn't exist in the workspace.",
        "a call that names “The Trelis”"
    );
    public static readonly NoticeRule NoChannel = Warning(
        "no-channel",
        "Source and medium fit no channel.",
        "utm_medium=pigeon in an open list"
    );
    public static readonly NoticeRule OtherChannel = Warning(
        "other-channel",
        "Source and medium fit another channel than the placement's.",
        "a newsletter's link with utm_medium=social"
    );
    public static readonly NoticeRule SourceMediumSwapped = Warning(
        "source-medium-swapped",
        "Source and medium look swapped.",
        "utm_source=email&utm_medium=the_trellis"
    );

    /// <summary>All rules, in the order of their names.</summary>
    public static IReadOnlyList<NoticeRule> All { get; } =
    [.. typeof(NoticeRules).GetFields().Select(f => f.GetValue(null)).OfType<NoticeRule>().OrderBy(r => r.Name, StringComparer.Ordinal)];

    private static NoticeRule Guard(string name, string about, string example) => new(name, Severity.Error, about, example, Protects: true);

    private static NoticeRule Error(string name, string about, string example) => new(name, Severity.Error, about, example);

    private static NoticeRule Warning(string name, string about, string example) => new(name, Severity.Warning, about, example);

    private static NoticeRule Info(string name, string about, string example) => new(name, Severity.Info, about, example);
}

/// <summary>A rule that can speak about a link.</summary>
/// <param name="Name">Machine word in lower case with hyphens; never changes once published.</param>
/// <param name="Severity">The severity it has unless the workspace sets another.</param>
/// <param name="About">One line that says what the rule watches for.</param>
/// <param name="Example">Something that makes it speak, such as a value or a part of a URL.</param>
/// <param name="Protects">True for a rule that keeps the link itself whole; its severity can't be changed.</param>
public sealed record NoticeRule(string Name, Severity Severity, string About, string Example, bool Protects = false);

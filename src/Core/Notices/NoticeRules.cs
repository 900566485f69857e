namespace PreciseBeacon.Core.Notices;

/// <summary>Every rule that can speak about a link, with its usual severity and an example.</summary>
public static class NoticeRules
{
    public static readonly NoticeRule DestinationRefused = Guard("destination-refused", "The page's address can't be used as a destination.", "mailto:garden@marrowmere.example");
    public static readonly NoticeRule SchemeAdded = Note("scheme-added", "The address had no scheme; https:// was put before it.", "marrowmere.example/visit");
    public static readonly NoticeRule AddressTrimmed = Note("address-trimmed", "White space or invisible characters around the address were taken away.", "“ https://marrowmere.example/visit”");
    public static readonly NoticeRule InvisibleInAddress = Look("invisible-in-address", "The address has an invisible character inside.", "a zero-width space inside the path");
    public static readonly NoticeRule HostNotApproved = Look("host-not-approved", "The host is neither one of the workspace's sites nor approved.", "https://elsewhere.example/");
    public static readonly NoticeRule HostRefused = Guard("host-refused", "The host is one that nothing of this workspace may lead to.", "https://refused.example/, where an owner put refused.example on the list");
    public static readonly NoticeRule LeadsToShortLink = Guard("leads-to-short-link", "The page is a short link of the workspace itself.", "https://mmr.example/lanterns");
    public static readonly NoticeRule HttpWhereHttps = Look("http-where-https", "The address begins with http although the site answers https.", "http://marrowmere.example/");
    public static readonly NoticeRule UrlLong = Look("url-long", "The URL is longer than 2,000 octets (common practice).", "a page's query of 2,100 characters");
    public static readonly NoticeRule UrlTooLong = Guard("url-too-long", "The URL is longer than 8,000 octets (RFC 9110, section 4.1).", "a page's query of 8,100 characters");
    public static readonly NoticeRule SecondQuestionMark = Look("second-question-mark", "The query has a second question mark.", "…/visit?day=1?utm_source=the_trellis");
    public static readonly NoticeRule AmpersandEntity = Look("ampersand-entity", "The query has &amp; where & was meant.", "?utm_source=the_trellis&amp;utm_medium=email");
    public static readonly NoticeRule EncodedTwice = Look("encoded-twice", "A value looks percent-encoded twice.", "utm_content=header%2520button");
    public static readonly NoticeRule DuplicateKey = Look("duplicate-key", "A tag's key occurs more than once.", "utm_source=a&utm_source=b");
    public static readonly NoticeRule KeyMisspelt = Look("key-misspelt", "A key looks like a misspelt tag key.", "utm_soruce, utm-source, UTM_Source");
    public static readonly NoticeRule KeyCollides = Look("key-collides", "The page's own address uses the key of one of the workspace's fields.", "…/visit?region=north, where Region is a field");
    public static readonly NoticeRule KeyNotUnderstood = Note("key-not-understood", "A system that reads the links does not understand a key.", "region, where the visit reports know the standard keys only");
    public static readonly NoticeRule ValueCutShort = Look("value-cut-short", "A bare & or # inside a value cuts it short.", "utm_content=questions&answers, utm_content=no#1&utm_term=x");
    public static readonly NoticeRule TagsReplaced = Note("tags-replaced", "Tags the address already had were replaced.", "a pasted address with utm_source=old");
    public static readonly NoticeRule TagsKept = Note("tags-kept", "Tags the address already had were kept.", "the same, where the workspace keeps tags");
    public static readonly NoticeRule TagsAlreadyThere = Stop("tags-already-there", "The address already has tags and the workspace refuses those.", "the same, where the workspace refuses tags");
    public static readonly NoticeRule TagsAfterHash = Note("tags-after-hash", "The tags stand after the #, where not every reader looks.", "…/app#utm_source=the_trellis, on a site that reads its fragment");
    public static readonly NoticeRule TagsHiddenInFragment = Look("tags-hidden-in-fragment", "The address has tags after the # although the site reads its query.", "…/visit#utm_source=the_trellis");
    public static readonly NoticeRule TagInsideSite = Look("tag-inside-site", "A link from one of the workspace's pages to another has tags.", "utm_source=marrowmere.example on the garden's own page");
    public static readonly NoticeRule ToolOverwrites = Look("tool-overwrites", "The tool behind the placement writes the same tags by itself.", "a mail tool that adds utm_source to every link");
    public static readonly NoticeRule NoTags = Look("no-tags", "The link has no tags at all.", "https://marrowmere.example/visit");
    public static readonly NoticeRule SealedUnknown = Look("sealed-unknown", "A sealed link's code is not one of the workspace's.", "…/visit?k=ccccccccccccct");
    public static readonly NoticeRule MissingRequired = Stop("missing-required", "A required field has no value.", "no utm_source");
    public static readonly NoticeRule StandingUnfilled = Stop("standing-unfilled", "A standing value of the placement fills in something that nothing gives.", "utm_content=@{region} for a campaign without a region");
    public static readonly NoticeRule PartMissing = Stop("part-missing", "A composed field can't be put together, as a part of it is missing.", "a campaign's name without its region");
    public static readonly NoticeRule NameDoesNotFit = Look("name-does-not-fit", "A composed field was written by hand and does not fit its pattern.", "utm_campaign=lanterns, where date_channel_region is due");
    public static readonly NoticeRule FixedDiffers = Look("fixed-differs", "A field that always says the same was given another value.", "brand=other");
    public static readonly NoticeRule DateUnreadable = Stop("date-unreadable", "A date field has no date, or one that says too little.", "starts=soon");
    public static readonly NoticeRule ChoiceUnusual = Look("choice-unusual", "Two words do not go together.", "utm_source=nattervine with utm_medium=email");
    public static readonly NoticeRule FieldUnknown = Stop("field-unknown", "A value was given for a field the convention doesn't have.", "colour=green");
    public static readonly NoticeRule EmptyValue = Look("empty-value", "A tag is there without a value.", "utm_term=");
    public static readonly NoticeRule WordUnknown = Stop("word-unknown", "The value is not in the field's closed word list.", "utm_medium=pigeon");
    public static readonly NoticeRule WordNew = Look("word-new", "The value is not in the field's open word list.", "utm_source=brand_new_network");
    public static readonly NoticeRule AliasUsed = Note("alias-used", "An alias was written as its word.", "utm_medium=e-mail");
    public static readonly NoticeRule WordRetired = Stop("word-retired", "The word is retired.", "utm_source=fernpost");
    public static readonly NoticeRule CaseChanged = Note("case-changed", "Upper and lower case were set as the field says.", "utm_content=Header");
    public static readonly NoticeRule SpaceChanged = Note("space-changed", "Spaces were replaced or taken away as the field says.", "utm_content=header%20button");
    public static readonly NoticeRule CharactersChanged = Note("characters-changed", "Characters were rewritten or removed as the field says.", "region=north!");
    public static readonly NoticeRule CharacterRefused = Stop("character-refused", "The value has a character the field refuses.", "utm_id=47/11");
    public static readonly NoticeRule BrokenText = Guard("broken-text", "The value has a control character or half a character.", "half of an emoji");
    public static readonly NoticeRule ValueTooLong = Stop("value-too-long", "The value is longer than the field allows.", "utm_term of 300 characters");
    public static readonly NoticeRule PersonalData = Stop("personal-data", "The value looks like a mail address or a phone number.", "utm_content=wren@marrowmere.example");
    public static readonly NoticeRule LongNumber = Look("long-number", "The value has a long run of digits, which may be somebody's number.", "utm_content=123456789012");
    public static readonly NoticeRule FormatInMedium = Look("format-in-medium", "The medium holds a format or a size.", "utm_medium=banner_300x250");
    public static readonly NoticeRule PlaceholderForeign = Look("placeholder-foreign", "The value has a placeholder of a shape this workspace doesn't use.", "utm_term=[keyword]");
    public static readonly NoticeRule PlaceholderUnreadable = Look("placeholder-unreadable", "The value has a placeholder a standard reader can't read back.", "utm_term=%%keyword%%");
    public static readonly NoticeRule OutsideCampaignDates = Look("outside-campaign-dates", "The campaign is over, or a date lies outside it.", "a link made after the campaign's last day");
    public static readonly NoticeRule SameAsExisting = Look("same-as-existing", "A link with the same URL is already in the Ledger.", "the same link made twice");
    public static readonly NoticeRule SameAsOther = Look("same-as-other", "Another link made here has the same tags; the two can't be told apart.", "two placements with equal standing values");
    public static readonly NoticeRule CampaignUnknown = Stop("campaign-unknown", "The campaign named doesn't exist in the workspace.", "a call that names “Lantern Night”");
    public static readonly NoticeRule PlacementUnknown = Stop("placement-unknown", "The placement named doesn't exist in the workspace.", "a call that names “The Trelis”");
    public static readonly NoticeRule NoChannel = Look("no-channel", "Source and medium fit no channel.", "utm_medium=pigeon in an open list");
    public static readonly NoticeRule OtherChannel = Look("other-channel", "Source and medium fit another channel than the placement's.", "a newsletter's link with utm_medium=social");
    public static readonly NoticeRule SourceMediumSwapped = Look("source-medium-swapped", "Source and medium look swapped.", "utm_source=email&utm_medium=the_trellis");

    /// <summary>All rules, in the order of their names.</summary>
    public static IReadOnlyList<NoticeRule> All { get; } =
        [.. typeof(NoticeRules).GetFields().Select(f => f.GetValue(null)).OfType<NoticeRule>().OrderBy(r => r.Name, StringComparer.Ordinal)];

    private static NoticeRule Guard(string name, string about, string example) => new(name, Severity.Stop, about, example, Protects: true);

    private static NoticeRule Stop(string name, string about, string example) => new(name, Severity.Stop, about, example);

    private static NoticeRule Look(string name, string about, string example) => new(name, Severity.Look, about, example);

    private static NoticeRule Note(string name, string about, string example) => new(name, Severity.Note, about, example);
}

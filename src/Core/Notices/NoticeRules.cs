namespace PreciseBeacon.Core.Notices;

/// <summary>Every rule that can speak about a link, with its usual severity.</summary>
public static class NoticeRules
{
    public static readonly NoticeRule DestinationRefused = Stop("destination-refused", "The page's address can't be used as a destination.");
    public static readonly NoticeRule SchemeAdded = Note("scheme-added", "The address had no scheme; https:// was put before it.");
    public static readonly NoticeRule AddressTrimmed = Note("address-trimmed", "White space or invisible characters around the address were taken away.");
    public static readonly NoticeRule InvisibleInAddress = Look("invisible-in-address", "The address has an invisible character inside.");
    public static readonly NoticeRule HostNotApproved = Look("host-not-approved", "The host is neither one of the workspace's sites nor approved.");
    public static readonly NoticeRule HttpWhereHttps = Look("http-where-https", "The address begins with http although the site answers https.");
    public static readonly NoticeRule UrlLong = Look("url-long", "The URL is longer than 2,000 octets (common practice).");
    public static readonly NoticeRule UrlTooLong = Stop("url-too-long", "The URL is longer than 8,000 octets (RFC 9110, section 4.1).");
    public static readonly NoticeRule SecondQuestionMark = Look("second-question-mark", "The query has a second question mark.");
    public static readonly NoticeRule AmpersandEntity = Look("ampersand-entity", "The query has &amp; where & was meant.");
    public static readonly NoticeRule EncodedTwice = Look("encoded-twice", "A value looks percent-encoded twice.");
    public static readonly NoticeRule DuplicateKey = Look("duplicate-key", "A tag's key occurs more than once.");
    public static readonly NoticeRule KeyMisspelt = Look("key-misspelt", "A key looks like a misspelt tag key.");
    public static readonly NoticeRule TagsReplaced = Note("tags-replaced", "Tags the address already had were replaced.");
    public static readonly NoticeRule TagsKept = Note("tags-kept", "Tags the address already had were kept.");
    public static readonly NoticeRule TagsAlreadyThere = Stop("tags-already-there", "The address already has tags and the workspace refuses those.");
    public static readonly NoticeRule TagsAfterHash = Note("tags-after-hash", "The tags stand after the #, where not every reader looks.");
    public static readonly NoticeRule TagsHiddenInFragment = Look("tags-hidden-in-fragment", "The address has tags after the # although the site reads its query.");
    public static readonly NoticeRule NoTags = Look("no-tags", "The link has no tags at all.");
    public static readonly NoticeRule MissingRequired = Stop("missing-required", "A required field has no value.");
    public static readonly NoticeRule FieldUnknown = Stop("field-unknown", "A value was given for a field the convention doesn't have.");
    public static readonly NoticeRule EmptyValue = Look("empty-value", "A tag is there without a value.");
    public static readonly NoticeRule WordUnknown = Stop("word-unknown", "The value is not in the field's closed word list.");
    public static readonly NoticeRule WordNew = Look("word-new", "The value is not in the field's open word list.");
    public static readonly NoticeRule AliasUsed = Note("alias-used", "An alias was written as its word.");
    public static readonly NoticeRule WordRetired = Stop("word-retired", "The word is retired.");
    public static readonly NoticeRule CaseChanged = Note("case-changed", "Upper and lower case were set as the field says.");
    public static readonly NoticeRule SpaceChanged = Note("space-changed", "Spaces were replaced or taken away as the field says.");
    public static readonly NoticeRule CharactersChanged = Note("characters-changed", "Characters were rewritten or removed as the field says.");
    public static readonly NoticeRule CharacterRefused = Stop("character-refused", "The value has a character the field refuses.");
    public static readonly NoticeRule BrokenText = Stop("broken-text", "The value has a control character or half a character.");
    public static readonly NoticeRule ValueTooLong = Stop("value-too-long", "The value is longer than the field allows.");
    public static readonly NoticeRule PersonalData = Stop("personal-data", "The value looks like a mail address or a phone number.");
    public static readonly NoticeRule LongNumber = Look("long-number", "The value has a long run of digits, which may be somebody's number.");
    public static readonly NoticeRule PlaceholderForeign = Look("placeholder-foreign", "The value has a placeholder of a shape this workspace doesn't use.");
    public static readonly NoticeRule PlaceholderUnreadable = Look("placeholder-unreadable", "The value has a placeholder a standard reader can't read back.");
    public static readonly NoticeRule OutsideCampaignDates = Look("outside-campaign-dates", "The campaign doesn't run today.");
    public static readonly NoticeRule SameAsExisting = Look("same-as-existing", "A link with the same URL is already in the Ledger.");
    public static readonly NoticeRule SameAsOther = Look("same-as-other", "Another link made here has the same tags; the two can't be told apart.");
    public static readonly NoticeRule CampaignUnknown = Stop("campaign-unknown", "The campaign named doesn't exist in the workspace.");
    public static readonly NoticeRule PlacementUnknown = Stop("placement-unknown", "The placement named doesn't exist in the workspace.");
    public static readonly NoticeRule NoChannel = Look("no-channel", "Source and medium fit no channel.");
    public static readonly NoticeRule OtherChannel = Look("other-channel", "Source and medium fit another channel than the placement's.");
    public static readonly NoticeRule SourceMediumSwapped = Look("source-medium-swapped", "Source and medium look swapped.");

    /// <summary>All rules, in the order of their names.</summary>
    public static IReadOnlyList<NoticeRule> All { get; } =
        [.. typeof(NoticeRules).GetFields().Select(f => f.GetValue(null)).OfType<NoticeRule>().OrderBy(r => r.Name, StringComparer.Ordinal)];

    private static NoticeRule Stop(string name, string about) => new(name, Severity.Stop, about);

    private static NoticeRule Look(string name, string about) => new(name, Severity.Look, about);

    private static NoticeRule Note(string name, string about) => new(name, Severity.Note, about);
}

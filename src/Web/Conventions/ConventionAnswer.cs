using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Document;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Web.Conventions;

/// <summary>A version of the convention.</summary>
/// <param name="Number">The version's number.</param>
/// <param name="IsDraft">True until it is published.</param>
/// <param name="Revision">To be sent back with a save, so that nothing unseen is overwritten.</param>
/// <param name="SavedBy">Who saved it last.</param>
/// <param name="PublishedAt">When it was published; null for a draft.</param>
/// <param name="Document">Its fields, channels and sites.</param>
/// <param name="Overlaps">Channels that share some arrivals with an earlier one.</param>
/// <param name="NeverReached">Channels that can never claim anything, each with the one that takes all of it.</param>
public sealed record ConventionAnswer(
    int Number,
    bool IsDraft,
    Guid Revision,
    string? SavedBy,
    DateTimeOffset? PublishedAt,
    ConventionDocument Document,
    IReadOnlyList<NeverReached> NeverReached,
    IReadOnlyList<ChannelOverlap> Overlaps
);

/// <summary>A channel that can never claim anything.</summary>
public sealed record NeverReached(string Channel, string TakenBy);

/// <summary>A version in the list.</summary>
public sealed record VersionAnswer(int Number, bool IsDraft, string? SavedBy, DateTimeOffset? PublishedAt);

/// <summary>A draft to be saved.</summary>
/// <param name="Document">The whole convention.</param>
/// <param name="Revision">The revision it was made from; null for a first draft.</param>
public sealed record SaveDraft(ConventionDocument Document, Guid? Revision);

/// <summary>What publishing the draft would do.</summary>
/// <param name="NewKeys">Keys that visits did not keep so far and that past page views brought, the most first.</param>
public sealed record EffectAnswer(
    int Links,
    int Affected,
    IReadOnlyList<EffectRule> Rules,
    long VisitsMoved,
    IReadOnlyList<EffectMove> Moves,
    IReadOnlyList<NewKeyViews> NewKeys
);

/// <summary>A key that visits did not keep so far.</summary>
/// <param name="Key">The key.</param>
/// <param name="PageViews">Page views that brought it already, as far as they are kept; their visits are worked out again.</param>
public sealed record NewKeyViews(string Key, long PageViews);

/// <summary>A text to be tried.</summary>
/// <param name="Document">The convention to try it under.</param>
/// <param name="Field">The field's key; null tries a whole URL.</param>
/// <param name="Text">The value, or the URL.</param>
/// <param name="Referrer">Host of a referrer, for the channels table.</param>
public sealed record TryRequest(ConventionDocument Document, string? Field, string Text, string? Referrer = null);

/// <summary>What became of a tried text.</summary>
/// <param name="Fields">The fields with every step.</param>
/// <param name="Notices">Notices.</param>
/// <param name="Channel">The channel that claims it.</param>
/// <param name="Because">Its conditions in words.</param>
/// <param name="Example">A name as the field's pattern makes it; null for other fields.</param>
/// <param name="Apart">The text, or the example, taken apart by the pattern; none when it does not fit.</param>
public sealed record TryAnswer(
    IReadOnlyList<ComposedField> Fields,
    IReadOnlyList<Notice> Notices,
    string Channel,
    string Because,
    ReferrerKind ReferrerKind,
    string? Example,
    IReadOnlyList<NamePartAnswer> Apart
);

/// <summary>A part of a name taken apart.</summary>
public sealed record NamePartAnswer(string Part, string Written);

/// <summary>A rule that can speak about links.</summary>
/// <param name="Severity">The usual one; a convention may set another unless the rule protects the link itself.</param>
public sealed record RuleAnswer(string Name, Severity Severity, string About, string Example, bool Protects);

/// <summary>Words pasted for a field, to be looked at.</summary>
/// <param name="Field">The field as it stands in the draft, with its words.</param>
/// <param name="Pasted">Lines with cells parted by tabs.</param>
public sealed record PreviewWords(FieldDocument? Field, string? Pasted);

/// <summary>A file that was read and compared; nothing of it is stored.</summary>
public sealed record FileRead(ConventionDocument Document, IReadOnlyList<DocumentChange> Changes);

/// <summary>How far the count of an effect is.</summary>
/// <param name="Done">Links looked at.</param>
/// <param name="Total">Links there are.</param>
/// <param name="Answer">What publishing would do; there on the last line only.</param>
/// <param name="MonthsDone">Months of past page views looked through for keys that are new.</param>
/// <param name="Months">Months there are; 0 where no key is new.</param>
public sealed record EffectProgress(int Done, int Total, EffectAnswer? Answer, int MonthsDone, int Months);

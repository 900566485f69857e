using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Ledger;

/// <summary>A change to many links. What a link says is never changed; one kind of change at a time.</summary>
/// <param name="Links">The links, 1 to 10,000.</param>
/// <param name="Retire">True puts them away, false brings them back; null leaves them as they are.</param>
/// <param name="Campaign">The campaign they belong to from now on; null leaves them where they are. Their tags stay.</param>
/// <param name="LeadsTo">The page their short links lead to from now on, each with its own tags; null leaves them.</param>
/// <param name="Shorten">True makes short links for those that have none.</param>
/// <param name="ShortDomain">Id or host of the short domain for that; the first where it is left out.</param>
/// <param name="AddTopics">Topics they get; null for none.</param>
/// <param name="DropTopics">Topics they lose; null for none.</param>
/// <param name="Count">True changes nothing, and only says what would be changed.</param>
public sealed record BulkLinkChangeRequest(
    IReadOnlyList<Guid>? Links,
    bool? Retire = null,
    Guid? Campaign = null,
    string? LeadsTo = null,
    bool Shorten = false,
    string? ShortDomain = null,
    IReadOnlyList<string>? AddTopics = null,
    IReadOnlyList<string>? DropTopics = null,
    bool Count = false
);

/// <summary>The result.</summary>
/// <param name="Changed">How many are changed; those that are so already are left out.</param>
/// <param name="Undo">Takes it back again; null when nothing was changed.</param>
/// <param name="Left">Why others stay as they are, and how many.</param>
/// <param name="Sample">Some of the changed, before and after.</param>
public sealed record ManyLinksAnswer(int Changed, Guid? Undo, IReadOnlyList<LeftLinks> Left, IReadOnlyList<ChangedLink> Sample);

/// <summary>Links that stay as they are.</summary>
public sealed record LeftLinks(string Why, int Links);

/// <summary>A link before and after a change.</summary>
public sealed record ChangedLink(string Title, string Before, string After);

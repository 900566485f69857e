namespace PreciseBeacon.Web.Ledger;

/// <summary>A change to many links. What a link says is never changed.</summary>
/// <param name="Links">The links, 1 to 10,000.</param>
/// <param name="Retire">True puts them away, false brings them back; null leaves them as they are.</param>
/// <param name="Campaign">The campaign they belong to from now on; null leaves them where they are. Their tags stay.</param>
public sealed record ManyLinksChange(IReadOnlyList<Guid>? Links, bool? Retire = null, Guid? Campaign = null);

/// <summary>What came of it.</summary>
/// <param name="Changed">How many were changed; those that were so already are left out.</param>
/// <param name="Undo">Takes it back again; null when nothing was changed.</param>
public sealed record ManyLinksAnswer(int Changed, Guid? Undo);

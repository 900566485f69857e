using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Conventions;

namespace PreciseBeacon.Web.Conventions;

/// <summary>A version of the convention.</summary>
/// <param name="Number">The version's number.</param>
/// <param name="IsDraft">True until it is published.</param>
/// <param name="Revision">To be sent back with a save, so that nothing unseen is overwritten.</param>
/// <param name="SavedBy">Who saved it last.</param>
/// <param name="PublishedAt">When it was published; null for a draft.</param>
/// <param name="Document">Its fields, channels and sites.</param>
/// <param name="NeverReached">Channels that can never claim anything, each with the one that takes all of it.</param>
public sealed record ConventionAnswer(
    int Number, bool IsDraft, Guid Revision, string? SavedBy, DateTimeOffset? PublishedAt, ConventionDocument Document, IReadOnlyList<NeverReached> NeverReached);

/// <summary>A channel that can never claim anything.</summary>
public sealed record NeverReached(string Channel, string TakenBy);

/// <summary>A version in the list.</summary>
public sealed record VersionAnswer(int Number, bool IsDraft, string? SavedBy, DateTimeOffset? PublishedAt);

/// <summary>A draft to be saved.</summary>
/// <param name="Document">The whole convention.</param>
/// <param name="Revision">The revision it was made from; null for a first draft.</param>
public sealed record SaveDraft(ConventionDocument Document, Guid? Revision);

/// <summary>What publishing the draft would do.</summary>
public sealed record EffectAnswer(int Links, int Affected, IReadOnlyList<EffectRule> Rules, long VisitsMoved, IReadOnlyList<EffectMove> Moves);

/// <summary>A text to be tried.</summary>
/// <param name="Document">The convention to try it under.</param>
/// <param name="Field">The field's key; null tries a whole URL.</param>
/// <param name="Text">The value, or the URL.</param>
/// <param name="Referrer">Host of a referrer, for the channels table.</param>
public sealed record TryRequest(ConventionDocument Document, string? Field, string Text, string? Referrer = null);

/// <summary>What became of a tried text.</summary>
/// <param name="Fields">The fields with every step.</param>
/// <param name="Notices">What there is to say.</param>
/// <param name="Channel">The channel that claims it.</param>
/// <param name="Because">Its conditions in words.</param>
public sealed record TryAnswer(IReadOnlyList<ComposedField> Fields, IReadOnlyList<Core.Notices.Notice> Notices, string Channel, string Because, ReferrerKind ReferrerKind);

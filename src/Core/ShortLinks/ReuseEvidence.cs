using PreciseBeacon.Core.Channels;

namespace PreciseBeacon.Core.ShortLinks;

/// <summary>Hits on a printed code's short link that did not begin on paper.</summary>
/// <param name="Host">Where they came from; empty for previews in chats and on networks.</param>
/// <param name="Kind">What kind of site that is; null for previews.</param>
/// <param name="Hits">How many.</param>
/// <param name="Since">When the first came.</param>
public sealed record ReuseEvidence(string Host, ReferrerKind? Kind, long Hits, DateTimeOffset Since);

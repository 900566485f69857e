namespace PreciseBeacon.Core.Channels;

/// <summary>A channel that shares some of its arrivals with an earlier one.</summary>
/// <param name="Channel">The later channel.</param>
/// <param name="Earlier">The earlier one, which gets what they share.</param>
/// <param name="Words">The words both would claim by.</param>
public sealed record ChannelOverlap(string Channel, string Earlier, IReadOnlyList<string> Words);

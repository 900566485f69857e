using PreciseBeacon.Core.Channels;

namespace PreciseBeacon.Core.Conventions;

/// <summary>A channel's condition as written.</summary>
public sealed record ConditionDocument
{
    public ChannelSubject Subject { get; init; }

    public ChannelTest Test { get; init; }

    public IReadOnlyList<string> Values { get; init; } = [];
}

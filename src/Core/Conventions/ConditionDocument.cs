using PreciseBeacon.Core.Channels;
using YamlDotNet.Serialization;

namespace PreciseBeacon.Core.Conventions;

/// <summary>A channel's condition as written.</summary>
public sealed record ConditionDocument
{
    [YamlMember(DefaultValuesHandling = DefaultValuesHandling.Preserve)]
    public ChannelSubject Subject { get; init; }

    [YamlMember(DefaultValuesHandling = DefaultValuesHandling.Preserve)]
    public ChannelTest Test { get; init; }

    public IReadOnlyList<string> Values { get; init; } = [];
}

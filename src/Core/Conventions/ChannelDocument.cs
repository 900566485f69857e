using PreciseBeacon.Core.Channels;

namespace PreciseBeacon.Core.Conventions;

/// <summary>A channel as written.</summary>
public sealed record ChannelDocument
{
    public string Name { get; init; } = "";

    public string Group { get; init; } = "";

    public IReadOnlyList<ConditionDocument> Conditions { get; init; } = [];

    public static ChannelDocument Of(Channel channel) => new()
    {
        Name = channel.Name,
        Group = channel.Group,
        Conditions = [.. channel.Conditions.Select(c => new ConditionDocument { Subject = c.Subject, Test = c.Test, Values = c.Values })],
    };

    public Channel ToChannel() => new(Name, Group, [.. Conditions.Select(c => new ChannelCondition(c.Subject, c.Test, c.Values))]);
}

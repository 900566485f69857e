using PreciseBeacon.Core.Channels;
using YamlDotNet.Serialization;

namespace PreciseBeacon.Core.Conventions.Document;

/// <summary>A channel as written.</summary>
public sealed record ChannelDocument
{
    public string Name { get; init; } = "";

    public string Group { get; init; } = "";

    public IReadOnlyList<ConditionDocument> Conditions { get; init; } = [];

    public static ChannelDocument Of(Channel channel) =>
        new()
        {
            Name = channel.Name,
            Group = channel.Group,
            Conditions =
            [
                .. channel.Conditions.Select(c => new ConditionDocument
                {
                    Subject = c.Subject,
                    Test = c.Test,
                    Values = c.Values,
                }),
            ],
        };

    public Channel ToChannel() => new(Name, Group, [.. Conditions.Select(c => new ChannelCondition(c.Subject, c.Test, c.Values))]);
}

/// <summary>A channel's condition as written.</summary>
public sealed record ConditionDocument
{
    [YamlMember(DefaultValuesHandling = DefaultValuesHandling.Preserve)]
    public ChannelSubject Subject { get; init; }

    [YamlMember(DefaultValuesHandling = DefaultValuesHandling.Preserve)]
    public ChannelTest Test { get; init; }

    public IReadOnlyList<string> Values { get; init; } = [];
}

/// <summary>What kind of site a host is.</summary>
public sealed record ReferrerDocument
{
    public string Host { get; init; } = "";

    [YamlMember(DefaultValuesHandling = DefaultValuesHandling.Preserve)]
    public ReferrerKind Kind { get; init; }
}

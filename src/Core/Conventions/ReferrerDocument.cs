using PreciseBeacon.Core.Channels;
using YamlDotNet.Serialization;

namespace PreciseBeacon.Core.Conventions;

/// <summary>What kind of site a host is.</summary>
public sealed record ReferrerDocument
{
    public string Host { get; init; } = "";

    [YamlMember(DefaultValuesHandling = DefaultValuesHandling.Preserve)]
    public ReferrerKind Kind { get; init; }
}

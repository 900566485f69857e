using PreciseBeacon.Core.Channels;

namespace PreciseBeacon.Core.Conventions;

/// <summary>What kind of site a host is.</summary>
public sealed record ReferrerDocument
{
    public string Host { get; init; } = "";

    public ReferrerKind Kind { get; init; }
}

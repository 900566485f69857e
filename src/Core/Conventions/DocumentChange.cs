namespace PreciseBeacon.Core.Conventions;

/// <summary>One difference between two conventions.</summary>
/// <param name="Kind">Whether the thing is new, gone or changed.</param>
/// <param name="What">The thing in words, such as “Source: fernpost”.</param>
/// <param name="Property">What of it changed; empty for a thing that is new or gone.</param>
/// <param name="Before">How it was; empty where it wasn't.</param>
/// <param name="After">How it is; empty where it isn't any more.</param>
public sealed record DocumentChange(ChangeKind Kind, string What, string Property, string Before, string After);

using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Links;

/// <summary>A page's address that may be sent to, with nothing of its own touched but what a URI can't hold.</summary>
/// <param name="Scheme"><c>http</c> or <c>https</c>.</param>
/// <param name="Host">The host, shown and ASCII.</param>
/// <param name="Port">The port's digits as typed, or null.</param>
/// <param name="Path">Path as typed; empty, or beginning with a slash.</param>
/// <param name="Query">Query as typed without its <c>?</c>, or null.</param>
/// <param name="Fragment">Fragment as typed without its <c>#</c>, or null.</param>
public sealed record Destination(string Scheme, HostName Host, string? Port, string Path, string? Query, string? Fragment)
{
    /// <summary>Host and port in ASCII, as sites and approved hosts are listed.</summary>
    public string HostAndPort => Port is null ? Host.Ascii : $"{Host.Ascii}:{Port}";

    /// <summary>Host, port and path, as landing pages are listed; the path of a bare host is a slash.</summary>
    public string Page => HostAndPort + (Path.Length == 0 ? "/" : Path);

    /// <summary>The address as typed: Unicode host, nothing encoded.</summary>
    public string Shown => new UriParts(Scheme, Port is null ? Host.Shown : $"{Host.Shown}:{Port}", Path, Query, Fragment).ToString();
}

/// <summary>What came of reading a destination: either it is accepted, or the notices hold the reason.</summary>
public sealed record DestinationReading(Destination? Destination, IReadOnlyList<Notice> Notices);

namespace PreciseBeacon.Web.Outside;

/// <summary>A page as it was fetched.</summary>
/// <param name="Url">Where it was found in the end.</param>
/// <param name="Body">Its octets, decompressed.</param>
/// <param name="Charset">The encoding its header names, or null.</param>
public sealed record OutsidePage(string Url, byte[] Body, string? Charset);

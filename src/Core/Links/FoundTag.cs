namespace PreciseBeacon.Core.Links;

/// <summary>A tag an address already had.</summary>
/// <param name="Key">The tag's own key.</param>
/// <param name="WrittenKey">The key as it stood there, decoded.</param>
/// <param name="Value">The value as it stood there, decoded.</param>
/// <param name="AfterHash">True when it stood in the fragment.</param>
public sealed record FoundTag(string Key, string WrittenKey, string Value, bool AfterHash);

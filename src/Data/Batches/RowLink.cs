namespace PreciseBeacon.Data.Batches;

/// <summary>What goes out beside a row's link.</summary>
/// <param name="Text">Its short link for texts, or null.</param>
/// <param name="Code">What its code says, or null.</param>
/// <param name="MadeAt">When it was made.</param>
public sealed record RowLink(string? Text, string? Code, DateTimeOffset MadeAt);

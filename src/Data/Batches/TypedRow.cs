namespace PreciseBeacon.Data.Batches;

/// <summary>Values typed for one row, by field key, or by <c>destination</c>, <c>placement</c>, <c>campaign</c>; null takes one back.</summary>
/// <param name="Number">The row's number, from 1.</param>
/// <param name="Values">The values.</param>
public sealed record TypedRow(int Number, Dictionary<string, string?> Values);

namespace PreciseBeacon.Core.Conventions;

/// <summary>What a word list says about a value.</summary>
/// <param name="Kind">How the value stands to the list.</param>
/// <param name="Word">The word it is or resolves to; for an unknown value the nearest word, or null.</param>
public sealed record WordMatch(WordMatchKind Kind, Word? Word);

namespace PreciseBeacon.Core.Conventions;

/// <summary>One pasted word, looked at before it is taken in.</summary>
/// <param name="Word">The word as it would be kept.</param>
/// <param name="Verdict">How it stands to the list.</param>
/// <param name="Like">Written form of the word in the list, or earlier among the pasted, that it is like; null when it is like none.</param>
public sealed record PastedWord(WordDocument Word, PastedVerdict Verdict, string? Like);

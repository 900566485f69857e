namespace PreciseBeacon.Core.Conventions;

/// <summary>Which words of one field go with a word of another, so that choosing one narrows the other.</summary>
/// <param name="Field">Key of the field chosen first.</param>
/// <param name="Word">Its written word.</param>
/// <param name="Narrows">Key of the field that is narrowed.</param>
/// <param name="To">The written words that go with it, at least one.</param>
public sealed record Choice(string Field, string Word, string Narrows, IReadOnlyList<string> To);

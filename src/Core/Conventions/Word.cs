namespace PreciseBeacon.Core.Conventions;

/// <summary>One allowed value of a field.</summary>
/// <param name="Written">The written form; always the result of normalising itself.</param>
/// <param name="Label">What people see when they pick it.</param>
/// <param name="Aliases">Known misspellings and other names that resolve to it.</param>
/// <param name="Retired">No longer to be used on new links.</param>
/// <param name="Successor">Written form of the word to use instead, for retired words.</param>
public sealed record Word(string Written, string Label, IReadOnlyList<string> Aliases, bool Retired = false, string? Successor = null)
{
    public Word(string written)
        : this(written, written, [])
    {
    }
}

using System.Collections.Frozen;

namespace PreciseBeacon.Core.Conventions;

/// <summary>The allowed values of a field, looked up as a person or a file writes them.</summary>
public sealed class WordList
{
    private readonly FrozenDictionary<string, Word> _byWritten;
    private readonly FrozenDictionary<string, Word> _byAlias;
    private readonly FrozenDictionary<string, Word> _byLetters;
    private readonly Word[] _current;
    private readonly Lazy<NearestText> _nearest;
    private readonly ValueRules _rules;

    /// <param name="words">The words, in the order they are offered.</param>
    /// <param name="rules">How the field writes its values; aliases are compared in that form too.</param>
    /// <exception cref="ArgumentException">A word's written form is not what the rules make of it.</exception>
    public WordList(IReadOnlyList<Word> words, ValueRules rules)
    {
        foreach (var word in words)
        {
            string written = ValueNormaliser.Normalise(word.Written, rules).Written;
            if (written != word.Written)
            {
                throw new ArgumentException(
                    $"The word “{word.Written}” would become “{written}” by its field's own rules; enter it like that.",
                    nameof(words)
                );
            }
        }

        Words = words;
        _rules = rules;
        _byWritten = First(words, w => [w.Written]);
        _byAlias = First(words, w => w.Aliases.SelectMany(a => new[] { a, ValueNormaliser.Normalise(a, rules).Written }));
        _current = [.. words.Where(w => !w.Retired)];
        _byLetters = First(_current, w => [Letters(w.Written)]);
        _nearest = new Lazy<NearestText>(() => new NearestText(_current.Select(w => w.Written)), LazyThreadSafetyMode.PublicationOnly);
    }

    public IReadOnlyList<Word> Words { get; }

    /// <summary>Finds the word a value is, resolves to, or was probably meant to be.</summary>
    /// <param name="typed">The value as typed.</param>
    public WordMatch Match(string typed)
    {
        string written = WrittenAs(typed);
        return MatchOf(typed, written) ?? new WordMatch(WordMatchKind.Unknown, Nearest(written));
    }

    /// <summary>The word a value stands for, retired ones included; null where it is unknown. The nearest word is not looked for.</summary>
    public Word? Find(string typed) => MatchOf(typed, WrittenAs(typed))?.Word;

    /// <summary>True for the written form of a word, retired ones included.</summary>
    public bool Knows(string written) => _byWritten.ContainsKey(written);

    /// <summary>True when a word has the same letters apart from case and separators, as in a part of a name.</summary>
    public bool HasLettersOf(string text) => _byLetters.ContainsKey(Letters(text)) || _byWritten.ContainsKey(text);

    private string WrittenAs(string typed) => _byWritten.ContainsKey(typed) ? typed : ValueNormaliser.Normalise(typed, _rules).Written;

    private WordMatch? MatchOf(string typed, string written)
    {
        if (_byWritten.TryGetValue(written, out var word))
        {
            return new WordMatch(word.Retired ? WordMatchKind.Retired : WordMatchKind.Known, word);
        }

        return _byAlias.TryGetValue(typed, out word) || _byAlias.TryGetValue(written, out word)
            ? new WordMatch(word.Retired ? WordMatchKind.Retired : WordMatchKind.Alias, word)
            : null;
    }

    private Word? Nearest(string written) => _nearest.Value.PlaceOf(written) is >= 0 and var place ? _current[place] : null;

    /// <summary>The letters of a text in lower case, without separators.</summary>
    internal static string Letters(string text) => string.Concat(text.Where(c => c is not (' ' or '_' or '-'))).ToLowerInvariant();

    private static FrozenDictionary<string, Word> First(IEnumerable<Word> words, Func<Word, IEnumerable<string>> keys)
    {
        var map = new Dictionary<string, Word>(StringComparer.Ordinal);
        foreach (var word in words)
        {
            foreach (string key in keys(word))
            {
                map.TryAdd(key, word);
            }
        }

        return map.ToFrozenDictionary(StringComparer.Ordinal);
    }
}

/// <summary>One allowed value of a field.</summary>
/// <param name="Written">The written form; always the result of normalising itself.</param>
/// <param name="Label">What people see when they pick it.</param>
/// <param name="Aliases">Known misspellings and other names that resolve to it.</param>
/// <param name="Retired">No longer to be used on new links.</param>
/// <param name="Successor">Written form of the word to use instead, for retired words.</param>
public sealed record Word(string Written, string Label, IReadOnlyList<string> Aliases, bool Retired = false, string? Successor = null)
{
    public Word(string written)
        : this(written, written, []) { }
}

/// <summary>What a word list says about a value.</summary>
/// <param name="Kind">How the value stands to the list.</param>
/// <param name="Word">The word it is or resolves to; for an unknown value the nearest word, or null.</param>
public sealed record WordMatch(WordMatchKind Kind, Word? Word);

/// <summary>How a value stands to a word list.</summary>
public enum WordMatchKind
{
    Known,
    Alias,
    Retired,
    Unknown,
}

using PreciseBeacon.Core.Conventions.Document;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Conventions;

/// <summary>Looks at words pasted from a column or a sheet before they are taken into a list.</summary>
public static class WordPaste
{
    /// <summary>
    /// Reads lines with cells parted by tabs: the word, its label, other names. What a line's word would be written as
    /// is the field's doing; duplicates, variants of case and separators, and near misses are told apart.
    /// </summary>
    /// <param name="field">The field as it stands, with its words.</param>
    /// <param name="pasted">The text.</param>
    /// <returns>One entry for each line that holds anything, in order.</returns>
    public static IReadOnlyList<PastedWord> Look(FieldDocument field, string pasted)
    {
        var rules = field.ToRules();
        var known = new WordList(
            [
                .. field
                    .Words.Where(w => ValueNormaliser.Normalise(w.Written, rules).Written == w.Written)
                    .Select(w => new Word(w.Written, w.Label, w.Aliases, w.Retired, w.Successor)),
            ],
            rules
        );
        var earlier = new Dictionary<string, string>(StringComparer.Ordinal);
        var looked = new List<PastedWord>();
        foreach (string line in pasted.Split('\n'))
        {
            string[] cells = [.. line.TrimEnd('\r').Split('\t').Select(c => c.Trim())];
            if (cells[0].Length == 0)
            {
                continue;
            }

            var normal = ValueNormaliser.Normalise(cells[0], rules);
            var word = new WordDocument
            {
                Written = normal.Written,
                Label = cells.Length > 1 && cells[1].Length > 0 ? cells[1] : cells[0],
                Aliases = [.. cells.Skip(2).Where(c => c.Length > 0)],
            };
            var (verdict, like) =
                normal.Written.Length == 0 || normal.Problem is { Severity: Severity.Error }
                    ? (PastedVerdict.Unusable, null)
                    : VerdictOf(known, word.Written, earlier);
            looked.Add(new PastedWord(word, verdict, like));
            if (verdict != PastedVerdict.Unusable)
            {
                earlier.TryAdd(WordList.Letters(word.Written), word.Written);
            }
        }

        return looked;
    }

    private static (PastedVerdict Verdict, string? Like) VerdictOf(WordList known, string written, Dictionary<string, string> earlier)
    {
        if (known.Knows(written))
        {
            return (PastedVerdict.Already, written);
        }

        if (earlier.TryGetValue(WordList.Letters(written), out string? same))
        {
            return (same == written ? PastedVerdict.Already : PastedVerdict.SameLetters, same);
        }

        var match = known.Match(written);
        return match switch
        {
            { Kind: WordMatchKind.Alias or WordMatchKind.Retired, Word: { } word } => (PastedVerdict.Alias, word.Written),
            { Word: { } near } => (
                WordList.Letters(near.Written) == WordList.Letters(written) ? PastedVerdict.SameLetters : PastedVerdict.Near,
                near.Written
            ),
            _ => (PastedVerdict.Fresh, null),
        };
    }
}

/// <summary>One pasted word, looked at before it is taken in.</summary>
/// <param name="Word">The word as it would be kept.</param>
/// <param name="Verdict">How it stands to the list.</param>
/// <param name="Like">Written form of the word in the list, or earlier among the pasted, that it is like; null when it is like none.</param>
public sealed record PastedWord(WordDocument Word, PastedVerdict Verdict, string? Like);

/// <summary>How a pasted word stands to a list.</summary>
public enum PastedVerdict
{
    /// <summary>Like none in the list.</summary>
    Fresh,

    /// <summary>In the list already, or pasted twice.</summary>
    Already,

    /// <summary>Another name of a word in the list.</summary>
    Alias,

    /// <summary>The same letters as a word, apart from case and separators.</summary>
    SameLetters,

    /// <summary>One or two slips away from a word.</summary>
    Near,

    /// <summary>Nothing of it is left in the field's written form.</summary>
    Unusable,
}

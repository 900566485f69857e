using System.Buffers;
using System.Text;
using System.Text.RegularExpressions;

namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// Many patterns asked at once. Nearly all of them are plain words, which are looked for in one pass; the few others form
/// one expression that never backtracks. So the time grows with the text's length and nothing else.
/// </summary>
public sealed class UserAgentPatterns
{
    private const string Special = @"[](){}|*+?^$.\";

    private readonly SearchValues<string> _words;
    private readonly Regex? _others;

    /// <param name="patterns">Regular expressions, case-sensitive.</param>
    public UserAgentPatterns(IEnumerable<string> patterns)
    {
        var words = new HashSet<string>(StringComparer.Ordinal);
        var others = new List<string>();
        foreach (string pattern in patterns)
        {
            if (PlainWord(pattern) is { } word)
            {
                words.Add(word);
            }
            else
            {
                others.Add(pattern);
            }
        }

        _words = SearchValues.Create([.. words], StringComparison.Ordinal);
        _others =
            others.Count == 0 ? null : new Regex(string.Join('|', others), RegexOptions.CultureInvariant | RegexOptions.NonBacktracking);
    }

    /// <summary>Whether any of the patterns occurs in a text.</summary>
    public bool IsMatch(ReadOnlySpan<char> text) => text.ContainsAny(_words) || _others?.IsMatch(text) == true;

    /// <summary>The word an expression consists of; null for one that says more than a word.</summary>
    private static string? PlainWord(string pattern)
    {
        var word = new StringBuilder(pattern.Length);
        for (int i = 0; i < pattern.Length; i++)
        {
            if (pattern[i] == '\\' && i + 1 < pattern.Length && !char.IsAsciiLetterOrDigit(pattern[i + 1]))
            {
                word.Append(pattern[++i]);
            }
            else if (Special.Contains(pattern[i], StringComparison.Ordinal))
            {
                return null;
            }
            else
            {
                word.Append(pattern[i]);
            }
        }

        return word.ToString();
    }
}

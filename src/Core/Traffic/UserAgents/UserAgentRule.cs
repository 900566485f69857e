using System.Globalization;
using System.Text.RegularExpressions;

namespace PreciseBeacon.Core.Traffic.UserAgents;

/// <summary>One rule of the open data set: an expression, and what it says of an agent that it matches.</summary>
public sealed class UserAgentRule
{
    private readonly (string Word, int[] Trigrams)[][] _words;
    private readonly Lazy<Regex> _expression;
    private readonly string? _says;

    /// <summary>A rule.</summary>
    /// <param name="pattern">A regular expression.</param>
    /// <param name="ignoresCase">Capitals or not.</param>
    /// <param name="says">What it says, with <c>$1</c> to <c>$9</c> for groups of the expression; null for its first group.</param>
    public UserAgentRule(string pattern, bool ignoresCase, string? says)
    {
        _words = [.. RequiredWords.Of(pattern).Select(set => set.Select(word => (word, Trigrams.Of(word))).ToArray())];
        _says = says;
        _expression = new(() =>
            new Regex(pattern, RegexOptions.CultureInvariant | (ignoresCase ? RegexOptions.IgnoreCase : RegexOptions.None))
        );
    }

    /// <summary>What it says of an agent; null where it does not match.</summary>
    /// <param name="userAgent">The agent.</param>
    /// <param name="trigrams">Those of the agent.</param>
    public string? Of(string userAgent, Trigrams trigrams)
    {
        if (!MayMatch(userAgent, trigrams) || _expression.Value.Match(userAgent) is not { Success: true } match)
        {
            return null;
        }

        if (_says is null)
        {
            return match.Groups[1].Value.Trim();
        }

        string said = _says;
        for (int group = 1; group < 10 && said.Contains('$', StringComparison.Ordinal); group++)
        {
            said = said.Replace(
                string.Create(CultureInfo.InvariantCulture, $"${group}"),
                match.Groups[group].Value,
                StringComparison.Ordinal
            );
        }

        return said.Trim();
    }

    private bool MayMatch(string userAgent, Trigrams trigrams)
    {
        foreach (var words in _words)
        {
            if (!HoldsOne(userAgent, trigrams, words))
            {
                return false;
            }
        }

        return true;
    }

    private static bool HoldsOne(string userAgent, Trigrams trigrams, (string Word, int[] Trigrams)[] words)
    {
        foreach (var (word, bits) in words)
        {
            if (trigrams.MayHold(bits) && userAgent.Contains(word, StringComparison.OrdinalIgnoreCase))
            {
                return true;
            }
        }

        return false;
    }
}

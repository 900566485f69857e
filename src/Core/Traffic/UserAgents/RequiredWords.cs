using System.Text;

namespace PreciseBeacon.Core.Traffic.UserAgents;

/// <summary>
/// Finds words of which a text must contain one for a regular expression to match it, so that most expressions need not be tried. What it
/// does not understand is no word: then the expression is tried.
/// </summary>
public sealed class RequiredWords
{
    private const string Zero = "^$";

    /// <summary>Shorter ones stand in nearly every text.</summary>
    private const int Shortest = 3;

    private readonly string _pattern;
    private int _at;

    private RequiredWords(string pattern) => _pattern = pattern;

    /// <summary>Sets of words, of each of which a text must hold one, whatever its case; none where none can be told.</summary>
    /// <param name="pattern">A regular expression.</param>
    public static IReadOnlyList<IReadOnlyList<string>> Of(string pattern) => new RequiredWords(pattern).Alternatives();

    /// <summary>What all alternatives can't do without: all of an only one's, else one set made of each one's best.</summary>
    private List<List<string>> Alternatives()
    {
        var first = Sequence();
        var union = Best(first);
        bool only = true;
        for (; _at < _pattern.Length && _pattern[_at] != ')'; only = false)
        {
            _at++;
            var best = Best(Sequence());
            union = union is null || best is null ? null : [.. union, .. best];
        }

        return only ? first
            : union is null ? []
            : [union];
    }

    private static List<string>? Best(List<List<string>> sets) => sets.MaxBy(s => (s.Min(w => w.Length), -s.Count));

    /// <summary>What one alternative can't do without.</summary>
    private List<List<string>> Sequence()
    {
        var sets = new List<List<string>>();
        var run = new StringBuilder();
        while (_at < _pattern.Length && _pattern[_at] is not ('|' or ')'))
        {
            char next = _pattern[_at];
            char? literal = null;
            List<List<string>> group = [];
            switch (next)
            {
                case '(':
                    group = Group();
                    break;
                case '[':
                    literal = Class();
                    break;
                case '\\':
                    literal = Escaped();
                    break;
                default:
                    _at++;
                    literal = next == '.' || Zero.Contains(next, StringComparison.Ordinal) ? null : next;
                    break;
            }

            var (optional, repeats) = Quantifier();
            if (literal is { } letter && !optional)
            {
                run.Append(letter);
                if (!repeats)
                {
                    continue;
                }
            }

            Take();
            if (literal is { } repeated && !optional)
            {
                run.Append(repeated);
            }

            if (!optional)
            {
                sets.AddRange(group);
            }
        }

        Take();
        return sets;

        void Take()
        {
            if (run.Length >= Shortest)
            {
                sets.Add([run.ToString()]);
            }

            run.Clear();
        }
    }

    /// <summary>What a group can't do without; nothing for one that only looks around.</summary>
    private List<List<string>> Group()
    {
        _at++;
        bool looks = false;
        if (_at < _pattern.Length && _pattern[_at] == '?')
        {
            int colon = _pattern.IndexOf(':', _at);
            looks = colon != _at + 1;
            _at = looks ? _at + 1 : colon + 1;
        }

        var sets = Alternatives();
        _at++;
        return looks ? [] : sets;
    }

    /// <summary>A class of one letter in both cases is that letter; others are none.</summary>
    private char? Class()
    {
        int from = ++_at;
        if (_at < _pattern.Length && _pattern[_at] == '^')
        {
            _at++;
        }

        // A bracket that comes first is one of the class.
        if (_at < _pattern.Length && _pattern[_at] == ']')
        {
            _at++;
        }

        while (_at < _pattern.Length && _pattern[_at] != ']')
        {
            _at += _pattern[_at] == '\\' ? 2 : 1;
        }

        string inside = _pattern[from..Math.Min(_at, _pattern.Length)];
        _at++;
        return inside.Length == 2 && char.IsAsciiLetter(inside[0]) && (inside[0] ^ inside[1]) == ' ' ? inside[0] : null;
    }

    private char? Escaped()
    {
        char escaped = _at + 1 < _pattern.Length ? _pattern[_at + 1] : '\\';
        _at += 2;
        return char.IsAsciiLetterOrDigit(escaped) ? null : escaped;
    }

    private (bool Optional, bool Repeats) Quantifier()
    {
        if (_at >= _pattern.Length)
        {
            return (false, false);
        }

        bool optional;
        switch (_pattern[_at])
        {
            case '?' or '*':
                optional = true;
                _at++;
                break;
            case '+':
                optional = false;
                _at++;
                break;
            case '{' when _at + 1 < _pattern.Length && char.IsAsciiDigit(_pattern[_at + 1]):
                optional = _pattern[_at + 1] == '0';
                _at = _pattern.IndexOf('}', _at) + 1;
                break;
            default:
                return (false, false);
        }

        if (_at < _pattern.Length && _pattern[_at] is '?' or '+')
        {
            _at++;
        }

        return (optional, true);
    }
}

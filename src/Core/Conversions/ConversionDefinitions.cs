using System.Collections.Concurrent;
using System.Collections.Frozen;
using System.Text.RegularExpressions;

namespace PreciseBeacon.Core.Conversions;

/// <summary>
/// A workspace's definitions, made ready so that very many cost a page no more than a few: pages are looked up, beginnings by their
/// lengths, and what a pattern says of a page is remembered.
/// </summary>
public sealed class ConversionDefinitions
{
    /// <summary>Definitions a workspace has at most (ours).</summary>
    public const int Most = 10_000;

    private const int RememberedPages = 20_000;

    /// <summary>Patterns go over a text once, whatever stands in them, so this is never reached by what <see cref="DefinedPage"/> lets through.</summary>
    private static readonly TimeSpan LongestMatch = TimeSpan.FromMilliseconds(100);

    private readonly FrozenDictionary<string, ConversionDefinition[]> _pages;
    private readonly FrozenDictionary<string, ConversionDefinition[]> _begins;
    private readonly int[] _lengths;
    private readonly (ConversionDefinition Definition, Regex Pattern)[] _patterns;
    private readonly FrozenDictionary<string, ConversionDefinition[]> _events;
    private readonly ConcurrentDictionary<string, ConversionDefinition[]> _known = new(StringComparer.Ordinal);

    public ConversionDefinitions(IReadOnlyCollection<ConversionDefinition> all)
    {
        _pages = By(ConversionTest.Page);
        _begins = By(ConversionTest.PageBegins);
        _lengths = [.. _begins.Keys.Select(k => k.Length).Distinct().Order()];
        _patterns = [.. all.Where(d => d.Test == ConversionTest.PagePattern).Select(d => (d, PatternOf(d.Text)))];
        _events = By(ConversionTest.Event);
        Any = all.Count > 0;

        FrozenDictionary<string, ConversionDefinition[]> By(ConversionTest test) =>
            all.Where(d => d.Test == test).GroupBy(d => d.Text).ToFrozenDictionary(g => g.Key, g => g.ToArray(), StringComparer.Ordinal);
    }

    /// <summary>None.</summary>
    public static ConversionDefinitions None { get; } = new([]);

    /// <summary>There is at least one.</summary>
    public bool Any { get; }

    /// <summary>Those that are met where a page is reached.</summary>
    /// <param name="page">Host and path.</param>
    public IReadOnlyList<ConversionDefinition> OfPage(string page)
    {
        if (!Any || page.Length == 0)
        {
            return [];
        }

        if (_known.TryGetValue(page, out var known))
        {
            return known;
        }

        if (_known.Count >= RememberedPages)
        {
            _known.Clear();
        }

        return _known[page] = [.. Find(DefinedPage.Bare(page))];
    }

    /// <summary>Those that are met where an event comes.</summary>
    public IReadOnlyList<ConversionDefinition> OfEvent(string name) => _events.GetValueOrDefault(name, []);

    private IEnumerable<ConversionDefinition> Find(string page)
    {
        int slash = page.IndexOf('/', StringComparison.Ordinal);
        string path = slash < 0 ? "/" : page[slash..];
        foreach (string text in new[] { page, path })
        {
            foreach (var definition in _pages.GetValueOrDefault(text, []))
            {
                yield return definition;
            }

            foreach (int length in _lengths.TakeWhile(l => l <= text.Length))
            {
                foreach (var definition in _begins.GetValueOrDefault(text[..length], []))
                {
                    yield return definition;
                }
            }
        }

        foreach (var (definition, pattern) in _patterns)
        {
            if (pattern.IsMatch(IsOfHost(definition.Text) ? page : path))
            {
                yield return definition;
            }
        }
    }

    private static bool IsOfHost(string text) => text[0] != '/';

    private static Regex PatternOf(string text) =>
        new(
            $"^{Regex.Escape(text).Replace(@"\*", ".*", StringComparison.Ordinal)}$",
            RegexOptions.NonBacktracking | RegexOptions.CultureInvariant | RegexOptions.Singleline,
            LongestMatch
        );
}

namespace PreciseBeacon.Core.Outside;

/// <summary>What a site's robots.txt lets a program fetch (RFC 9309).</summary>
public sealed class RobotsRules
{
    /// <summary>Everything may be fetched, as where there is no such file (RFC 9309, 2.3.1.3).</summary>
    public static readonly RobotsRules All = new([]);

    /// <summary>Nothing may be fetched, as where the file can't be had for now (RFC 9309, 2.3.1.4).</summary>
    public static readonly RobotsRules Nothing = new([(false, "/")]);

    /// <summary>Rules past so many are not looked at (RFC 9309, 2.5 asks for 500 KiB at least; a file is cut there).</summary>
    private const int MostRules = 10_000;

    private readonly IReadOnlyList<(bool Allows, string Path)> _rules;

    private RobotsRules(IReadOnlyList<(bool Allows, string Path)> rules) => _rules = rules;

    /// <summary>Reads a file: the groups that name the program, else those for all.</summary>
    /// <param name="text">The file.</param>
    /// <param name="agent">What the program calls itself, without a version; case doesn't matter.</param>
    public static RobotsRules Parse(string text, string agent)
    {
        var own = new List<(bool, string)>();
        var everyone = new List<(bool, string)>();
        bool isNamed = false,
            namesOwn = false,
            forOwn = false,
            forAll = false;
        foreach (string line in text.Split('\n'))
        {
            string said = line.Split('#', 2)[0].Trim();
            int colon = said.IndexOf(':', StringComparison.Ordinal);
            if (colon < 0)
            {
                continue;
            }

            string key = said[..colon].Trim();
            string value = said[(colon + 1)..].Trim();
            if (key.Equals("user-agent", StringComparison.OrdinalIgnoreCase))
            {
                // Names that follow each other begin one group.
                (forOwn, forAll) = isNamed ? (forOwn, forAll) : (false, false);
                isNamed = true;
                forOwn |= value.Equals(agent, StringComparison.OrdinalIgnoreCase);
                forAll |= value == "*";
                namesOwn |= forOwn;
                continue;
            }

            bool allows = key.Equals("allow", StringComparison.OrdinalIgnoreCase);
            if (!allows && !key.Equals("disallow", StringComparison.OrdinalIgnoreCase))
            {
                continue; // other lines, such as sitemaps, end no group
            }

            isNamed = false;
            if (value.Length > 0 && own.Count + everyone.Count < MostRules)
            {
                if (forOwn)
                {
                    own.Add((allows, value));
                }

                if (forAll)
                {
                    everyone.Add((allows, value));
                }
            }
        }

        return new RobotsRules(namesOwn ? own : everyone);
    }

    /// <summary>Whether a path may be fetched: the longest rule that fits decides, and of two alike the one that allows (RFC 9309, 2.2.2).</summary>
    /// <param name="path">Path and query as they are sent.</param>
    public bool Allows(string path)
    {
        var best = (Length: -1, Allows: true);
        foreach (var (allows, rule) in _rules)
        {
            if (Fits(rule, path) && (rule.Length > best.Length || (rule.Length == best.Length && allows)))
            {
                best = (rule.Length, allows);
            }
        }

        return best.Allows;
    }

    /// <summary>A rule is the beginning of a path; <c>*</c> stands for anything, <c>$</c> at its end for the path's end.</summary>
    private static bool Fits(string rule, string path)
    {
        bool ends = rule.EndsWith('$');
        string[] parts = (ends ? rule[..^1] : rule).Split('*');
        if (!path.StartsWith(parts[0], StringComparison.Ordinal))
        {
            return false;
        }

        int at = parts[0].Length;
        for (int i = 1; i < parts.Length; i++)
        {
            bool last = ends && i == parts.Length - 1;
            int found = last
                ? (
                    path.Length - parts[i].Length >= at && path.EndsWith(parts[i], StringComparison.Ordinal)
                        ? path.Length - parts[i].Length
                        : -1
                )
                : path.IndexOf(parts[i], at, StringComparison.Ordinal);
            if (found < 0)
            {
                return false;
            }

            at = found + parts[i].Length;
        }

        return !ends || at == path.Length;
    }
}

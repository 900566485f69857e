using System.Text;

namespace PreciseBeacon.Core.Plan;

/// <summary>
/// Fills our own <c>@{name}</c> into a text. Names are matched without case and without outer white space; what has no
/// value is listed and left as it stands; what is known only at the click is left for the redirect.
/// </summary>
public static class FillIns
{
    private const string Opener = "@{";

    /// <summary>Names that are known only when somebody clicks; the redirect fills them in.</summary>
    private const string AtClick = "click.";

    /// <summary>True when a text has anything to fill in.</summary>
    public static bool In(string text) => text.Contains(Opener, StringComparison.Ordinal);

    /// <summary>Names that occur in a text, in order, each as often as it occurs.</summary>
    public static IReadOnlyList<string> NamesIn(string text)
    {
        var names = new List<string>();
        Fill(text, name =>
        {
            names.Add(name);
            return null;
        });
        return names;
    }

    /// <summary>Fills a text.</summary>
    /// <param name="text">The text.</param>
    /// <param name="valueOf">The value of a name; null where there is none. What it gives is not looked into again.</param>
    /// <returns>The filled text, and the names that had no value.</returns>
    public static (string Text, IReadOnlyList<string> Missing) Fill(string text, Func<string, string?> valueOf)
    {
        var filled = new StringBuilder(text.Length);
        List<string>? missing = null;
        int done = 0;
        for (int at = text.IndexOf(Opener, StringComparison.Ordinal); at >= 0; at = text.IndexOf(Opener, done, StringComparison.Ordinal))
        {
            int end = text.IndexOf('}', at);
            if (end < 0)
            {
                break;
            }

            string name = text[(at + Opener.Length)..end].Trim();
            filled.Append(text, done, at - done);
            if (name.StartsWith(AtClick, StringComparison.OrdinalIgnoreCase))
            {
                filled.Append(text, at, end + 1 - at);
            }
            else if (valueOf(name) is { } value)
            {
                filled.Append(value);
            }
            else
            {
                (missing ??= []).Add(name);
                filled.Append(text, at, end + 1 - at);
            }

            done = end + 1;
        }

        return (filled.Append(text, done, text.Length - done).ToString(), missing ?? []);
    }
}

using System.Globalization;

namespace PreciseBeacon.Core.Plan;

/// <summary>A text for posts, written once for a page and repeated with each placement's own link.</summary>
public static class ShareText
{
    /// <summary>What may be filled into a text, and into the form a placement gives it.</summary>
    public static IReadOnlyList<string> Names { get; } = ["link", "placement", "publisher", "campaign", "page"];

    /// <summary>Fills the text for one placement.</summary>
    /// <param name="text">The text; where it names no link, the link follows on a line of its own.</param>
    /// <param name="form">The placement's own form with <c>@{text}</c> in it, or null for the text as it is.</param>
    /// <param name="link">The link people are to follow.</param>
    /// <param name="valueOf">Values of the other names.</param>
    /// <returns>The ready text, and names nothing gives a value for.</returns>
    public static (string Text, IReadOnlyList<string> Missing) Fill(string text, string? form, string link, Func<string, string?> valueOf)
    {
        bool formNamesLink = form is not null && Names(form, "link");
        var (inner, innerMissing) = FillIns.Fill(text, name => Is(name, "link") ? link : valueOf(name));
        if (!Names(text, "link") && !formNamesLink)
        {
            inner = inner.Length == 0 ? link : $"{inner}\n{link}";
        }

        if (string.IsNullOrWhiteSpace(form))
        {
            return (inner, [.. innerMissing.Distinct(StringComparer.OrdinalIgnoreCase)]);
        }

        string whole = Names(form, "text") ? form : "@{text}\n" + form;
        var (outer, outerMissing) = FillIns.Fill(whole, name => Is(name, "text") ? inner
            : Is(name, "link") ? link
            : valueOf(name));
        return (outer, [.. innerMissing.Concat(outerMissing).Distinct(StringComparer.OrdinalIgnoreCase)]);

        static bool Names(string text, string name) => FillIns.NamesIn(text).Any(n => Is(n, name));
    }

    /// <summary>How many characters a person counts: a letter with its marks, or an emoji with its joiners, is one (UAX #29).</summary>
    public static int CharactersOf(string text) => new StringInfo(text).LengthInTextElements;

    private static bool Is(string name, string other) => name.Equals(other, StringComparison.OrdinalIgnoreCase);
}

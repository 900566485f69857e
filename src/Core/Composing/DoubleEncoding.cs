using System.Text.RegularExpressions;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Composing;

/// <summary>Notices a value that was percent-encoded twice, as when a tagged URL is built into another.</summary>
internal static partial class DoubleEncoding
{
    /// <summary>The value as it was meant; null when it still holds no percent-encoded octet. A plus sign stays one.</summary>
    /// <param name="value">A value decoded once.</param>
    public static string? Undo(string value) =>
        value.Contains('%', StringComparison.Ordinal) && Octet().IsMatch(value)
            ? PercentEncoding.Decode(value.Replace("+", "%2B", StringComparison.Ordinal))
            : null;

    [GeneratedRegex("%[0-9A-Fa-f]{2}", RegexOptions.CultureInvariant)]
    private static partial Regex Octet();
}

using System.Globalization;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Codes;

/// <summary>Captions and file names put together from what is known of a link, such as <c>@{number} @{title}</c>.</summary>
public static class CodeNames
{
    public const string UsualName = "@{number} @{slug}";

    private const int LongestName = 120;

    /// <summary>The text filled in; what is unknown is named.</summary>
    /// <param name="pattern">The text with its <c>@{…}</c>.</param>
    /// <param name="link">The link.</param>
    /// <param name="number">Its place in the order, from 1.</param>
    public static (string Text, IReadOnlyList<string> Missing) Fill(string pattern, CodeText link, int number) =>
        FillIns.Fill(pattern, name => name.ToLowerInvariant() switch
            {
                "number" => number.ToString("D4", CultureInfo.InvariantCulture),
                "slug" => link.Slug,
                "title" => link.Title ?? "",
                "campaign" => link.Campaign ?? "",
                "placement" => link.Placement ?? "",
                "short link" => link.Code is null ? "" : link.Code[(link.Code.IndexOf("://", StringComparison.Ordinal) + 3)..],
                _ => null,
            });

    /// <summary>A name every file system takes, without what they refuse.</summary>
    public static string FileName(string text)
    {
        string safe = string.Concat(text.Select(c => char.IsControl(c) || "\\/:*?\"<>|".Contains(c, StringComparison.Ordinal) ? '-' : c))
            .Trim(' ', '.');
        return safe.Length == 0 ? "code"
            : safe.Length > LongestName ? safe[..LongestName].TrimEnd()
            : safe;
    }
}

namespace PreciseBeacon.Web.Hosting;

/// <summary>Patterns for finding a text anywhere in another.</summary>
public static class LikePattern
{
    public const string Escape = "\\";

    /// <summary>The pattern; what the text holds of the pattern's own signs is meant literally.</summary>
    public static string Anywhere(string text)
    {
        foreach (string sign in new[] { Escape, "%", "_" })
        {
            text = text.Replace(sign, Escape + sign, StringComparison.Ordinal);
        }

        return $"%{text}%";
    }
}

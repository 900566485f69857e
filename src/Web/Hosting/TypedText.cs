namespace PreciseBeacon.Web.Hosting;

/// <summary>Texts as people type them into fields that may stay empty.</summary>
public static class TypedText
{
    /// <summary>The text without spaces around it; null for nothing but spaces.</summary>
    public static string? OrNull(string? text) => string.IsNullOrWhiteSpace(text) ? null : text.Trim();
}

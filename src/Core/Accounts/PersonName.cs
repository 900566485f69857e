using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Accounts;

/// <summary>What a member is called.</summary>
public static class PersonName
{
    /// <summary>The longest name, in UTF-16 code units (ours).</summary>
    public const int Longest = 100;

    /// <summary>The name as it is kept: without signs nobody sees, and without spaces around it.</summary>
    /// <returns>Null where nothing is left, or too much.</returns>
    public static string? Read(string? typed) =>
        InvisibleText.Remove(typed ?? "").Trim() is { Length: > 0 and <= Longest } name ? name : null;
}

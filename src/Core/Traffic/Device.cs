namespace PreciseBeacon.Core.Traffic;

/// <summary>The kind of device a user agent speaks of.</summary>
public static class Device
{
    public const string Phone = "phone";
    public const string Tablet = "tablet";
    public const string Computer = "computer";

    /// <summary>Phone, tablet or computer, by the words browsers put into their user agents (common practice).</summary>
    public static string Of(string userAgent)
    {
        if (Has(userAgent, "Tablet") || Has(userAgent, "iPad") || (Has(userAgent, "Android") && !Has(userAgent, "Mobile")))
        {
            return Tablet;
        }

        return Has(userAgent, "Mobi") || Has(userAgent, "iPhone") ? Phone : Computer;
    }

    private static bool Has(string text, string word) => text.Contains(word, StringComparison.OrdinalIgnoreCase);
}

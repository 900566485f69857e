namespace PreciseBeacon.Core.ShortLinks;

/// <summary>The address of a short link.</summary>
public static class ShortUrl
{
    /// <summary>A slug on a short domain.</summary>
    /// <param name="scheme"><c>http</c> or <c>https</c>.</param>
    /// <param name="host">The domain, with a port where there is one.</param>
    /// <param name="slug">The slug.</param>
    public static string Of(string scheme, string host, string slug) => $"{scheme}://{host}/{slug}";
}

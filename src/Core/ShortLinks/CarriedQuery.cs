namespace PreciseBeacon.Core.ShortLinks;

/// <summary>Puts parameters that came behind a short link onto the page's address.</summary>
public static class CarriedQuery
{
    /// <summary>The address with what is carried; equal keys are compared decoded and without case, as servers mostly do.</summary>
    /// <param name="address">The page's address, ASCII.</param>
    /// <param name="query">What came behind the short link, with or without its <c>?</c>, percent-encoded.</param>
    /// <param name="how">What wins where both have a key.</param>
    public static string Onto(string address, string query, CarriedParameters how)
    {
        string[] carried = [.. query.TrimStart('?').Split('&', StringSplitOptions.RemoveEmptyEntries).Where(p => p[0] != '=')];
        if (how == CarriedParameters.Nothing || carried.Length == 0)
        {
            return address;
        }

        int fragmentAt = address.IndexOf('#', StringComparison.Ordinal);
        var (before, fragment) = fragmentAt < 0 ? (address, "") : (address[..fragmentAt], address[fragmentAt..]);
        int queryAt = before.IndexOf('?', StringComparison.Ordinal);
        string[] own = queryAt < 0 ? [] : before[(queryAt + 1)..].Split('&', StringSplitOptions.RemoveEmptyEntries);
        bool overwrites = how == CarriedParameters.Overwrite;
        var stay = own.Where(o => !overwrites || !carried.Any(c => KeyOf(c) == KeyOf(o)));
        var added = carried.Where(c => overwrites || !own.Any(o => KeyOf(o) == KeyOf(c)));
        return $"{(queryAt < 0 ? before : before[..queryAt])}?{string.Join('&', stay.Concat(added))}{fragment}";
    }

    private static string KeyOf(string parameter) => Uri.UnescapeDataString(parameter.Split('=', 2)[0]).ToLowerInvariant();
}

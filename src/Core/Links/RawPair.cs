namespace PreciseBeacon.Core.Links;

/// <summary>One stretch between two ampersands, as it stands.</summary>
/// <param name="Raw">The text as it stands; may be empty.</param>
public readonly record struct RawPair(string Raw)
{
    /// <summary>The decoded key.</summary>
    public string Key => PercentEncoding.Decode(KeyText);

    /// <summary>The decoded value; empty when there is no equals sign.</summary>
    public string Value => Raw.IndexOf('=', StringComparison.Ordinal) is var at and >= 0 ? PercentEncoding.Decode(Raw.AsSpan(at + 1)) : "";

    private ReadOnlySpan<char> KeyText => Raw.IndexOf('=', StringComparison.Ordinal) is var at and >= 0 ? Raw.AsSpan(0, at) : Raw;

    /// <summary>Splits a query at its ampersands; an absent query has no pairs, an empty one a single empty pair.</summary>
    public static List<RawPair> Split(string? query)
    {
        var pairs = new List<RawPair>();
        if (query is null)
        {
            return pairs;
        }

        int from = 0;
        while (true)
        {
            int at = query.IndexOf('&', from);
            if (at < 0)
            {
                pairs.Add(new RawPair(query[from..]));
                return pairs;
            }

            pairs.Add(new RawPair(query[from..at]));
            from = at + 1;
        }
    }
}

using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// Takes personal data out of an address before it is kept: values of parameters that look like a mail address or a phone number. What
/// looks so is one rule (<see cref="PersonalData"/>), for links that are built and for visits that arrive.
/// </summary>
public static class PrivateAddress
{
    /// <summary>What stands in place of such a value.</summary>
    public const string Removed = "(removed)";

    private const int FewestDigits = 9;

    /// <summary>The address with each such value in its query and in its fragment replaced; the same address where there is none.</summary>
    public static string Of(string address)
    {
        if (!MayHoldAny(address))
        {
            return address;
        }

        int query = address.IndexOf('?', StringComparison.Ordinal);
        int fragment = address.IndexOf('#', StringComparison.Ordinal);
        int from =
            query < 0 ? fragment
            : fragment < 0 ? query
            : Math.Min(query, fragment);
        if (from < 0)
        {
            return address;
        }

        string rest = address[(from + 1)..];
        string cleaned = string.Join('#', rest.Split('#').Select(part => string.Join('&', RawPair.Split(part).Select(Cleaned))));
        return cleaned == rest ? address : $"{address[..(from + 1)]}{cleaned}";
    }

    private static string Cleaned(RawPair pair)
    {
        int at = pair.Raw.IndexOf('=', StringComparison.Ordinal);
        return PersonalData.Find(at < 0 ? pair.Key : pair.Value) is { } found && found.Rule == NoticeRules.PersonalData
            ? $"{(at < 0 ? "" : pair.Raw[..(at + 1)])}{Uri.EscapeDataString(Removed)}"
            : pair.Raw;
    }

    /// <summary>Nearly all addresses hold none, and are told by a glance.</summary>
    private static bool MayHoldAny(string address) =>
        address.Contains('@', StringComparison.Ordinal)
        || address.Contains("%40", StringComparison.Ordinal)
        || address.Count(char.IsAsciiDigit) >= FewestDigits;
}

using System.Net;
using System.Net.Sockets;

namespace PreciseBeacon.Core.Outside;

/// <summary>
/// Tells addresses of the open internet from those of this machine, its network and special purposes, by the IANA
/// special-purpose address registries (RFC 6890 and its updates).
/// </summary>
public static class PublicAddress
{
    private static readonly IPNetwork[] NotPublic =
    [
        .. new[]
        {
            "0.0.0.0/8",
            "10.0.0.0/8",
            "100.64.0.0/10",
            "127.0.0.0/8",
            "169.254.0.0/16",
            "172.16.0.0/12",
            "192.0.0.0/24",
            "192.0.2.0/24",
            "192.88.99.0/24",
            "192.168.0.0/16",
            "198.18.0.0/15",
            "198.51.100.0/24",
            "203.0.113.0/24",
            "224.0.0.0/4",
            "240.0.0.0/4",
            "::/128",
            "::1/128",
            "64:ff9b:1::/48",
            "100::/64",
            "2001::/23",
            "2001:db8::/32",
            "3fff::/20",
            "5f00::/16",
            "fc00::/7",
            "fe80::/10",
            "fec0::/10",
            "ff00::/8",
        }.Select(IPNetwork.Parse),
    ];

    /// <summary>True when a connection to the address leaves for the open internet.</summary>
    public static bool Is(IPAddress address)
    {
        var inner = Inner(address);
        return inner.AddressFamily is AddressFamily.InterNetwork or AddressFamily.InterNetworkV6 && !NotPublic.Any(n => n.Contains(inner));
    }

    /// <summary>IPv4 inside IPv6 is judged as what it is: mapped and compatible addresses, NAT64 (RFC 6052), 6to4 (RFC 3056).</summary>
    private static IPAddress Inner(IPAddress address)
    {
        if (address.AddressFamily != AddressFamily.InterNetworkV6)
        {
            return address;
        }

        byte[] octets = address.GetAddressBytes();
        if (address.IsIPv4MappedToIPv6)
        {
            return address.MapToIPv4();
        }

        bool leadingZeros = octets.AsSpan(0, 12).IndexOfAnyExcept((byte)0) < 0;
        if (
            (leadingZeros && octets.AsSpan(12).IndexOfAnyExcept((byte)0) >= 0 && !address.Equals(IPAddress.IPv6Loopback))
            || octets.AsSpan(0, 12).SequenceEqual(new byte[] { 0, 0x64, 0xff, 0x9b, 0, 0, 0, 0, 0, 0, 0, 0 })
        )
        {
            return new IPAddress(octets.AsSpan(12, 4));
        }

        return octets[0] == 0x20 && octets[1] == 0x02 ? new IPAddress(octets.AsSpan(2, 4)) : address;
    }
}

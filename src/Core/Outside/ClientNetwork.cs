using System.Net;
using System.Net.Sockets;

namespace PreciseBeacon.Core.Outside;

/// <summary>
/// The network a client is counted by where something is slowed down: an IPv4 address whole, an IPv6 address by its first 64
/// bits, since one subscriber has all of those behind them (RFC 6177; RFC 4291 §2.5.1).
/// </summary>
public static class ClientNetwork
{
    private const int PrefixOctets = 8;

    /// <summary>The network of an address; the same value for all addresses of one client. Unknown addresses share one.</summary>
    public static IPAddress Of(IPAddress? address)
    {
        if (address is null)
        {
            return IPAddress.None;
        }

        if (address.AddressFamily != AddressFamily.InterNetworkV6)
        {
            return address;
        }

        if (address.IsIPv4MappedToIPv6)
        {
            return address.MapToIPv4();
        }

        byte[] octets = address.GetAddressBytes();
        octets.AsSpan(PrefixOctets).Clear();
        return new IPAddress(octets);
    }
}

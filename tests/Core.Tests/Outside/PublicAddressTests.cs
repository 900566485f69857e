using System.Net;
using PreciseBeacon.Core.Outside;

namespace PreciseBeacon.CoreTests.Outside;

/// <summary>Examples from the IANA special-purpose address registries, RFC 6052 and RFC 3056.</summary>
public sealed class PublicAddressTests
{
    [Theory]
    [InlineData("127.0.0.1")]
    [InlineData("127.255.255.254")]
    [InlineData("0.0.0.0")]
    [InlineData("10.1.2.3")]
    [InlineData("172.16.0.1")]
    [InlineData("172.31.255.255")]
    [InlineData("192.168.1.1")]
    [InlineData("169.254.169.254")] // where clouds tell machines their secrets
    [InlineData("100.64.0.1")]
    [InlineData("198.18.0.1")]
    [InlineData("224.0.0.1")]
    [InlineData("255.255.255.255")]
    [InlineData("::")]
    [InlineData("::1")]
    [InlineData("fe80::1")]
    [InlineData("fd00::1")]
    [InlineData("ff02::1")]
    [InlineData("2001:db8::1")]
    [InlineData("::ffff:127.0.0.1")] // mapped
    [InlineData("::ffff:192.168.0.1")]
    [InlineData("::127.0.0.1")] // compatible
    [InlineData("64:ff9b::10.0.0.1")] // NAT64
    [InlineData("2002:7f00:1::")] // 6to4 of 127.0.0.1
    [InlineData("2002:c0a8:101::1")]
    public void An_address_inside_or_of_special_purpose_is_not_public(string address) =>
        Assert.False(PublicAddress.Is(IPAddress.Parse(address)));

    [Theory]
    [InlineData("8.8.8.8")]
    [InlineData("172.32.0.1")]
    [InlineData("100.128.0.1")]
    [InlineData("192.167.255.255")]
    [InlineData("2606:4700::1111")]
    [InlineData("64:ff9b::8.8.8.8")]
    [InlineData("::ffff:8.8.8.8")]
    [InlineData("2002:808:808::1")]
    public void Every_other_address_is(string address) => Assert.True(PublicAddress.Is(IPAddress.Parse(address)));
}

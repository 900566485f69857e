using System.Net;
using PreciseBeacon.Core.Outside;

namespace PreciseBeacon.CoreTests.Outside;

public sealed class ClientNetworkTests
{
    [Theory]
    [InlineData("192.0.2.7", "192.0.2.7")]
    [InlineData("::ffff:192.0.2.7", "192.0.2.7")]
    [InlineData("2001:db8:1:2:3:4:5:6", "2001:db8:1:2::")]
    [InlineData("2001:db8:1:2::1", "2001:db8:1:2::")]
    [InlineData("2001:db8:1:3::1", "2001:db8:1:3::")]
    public void A_client_is_its_address_or_the_first_64_bits_of_it(string address, string network) =>
        Assert.Equal(IPAddress.Parse(network), ClientNetwork.Of(IPAddress.Parse(address)));

    [Fact]
    public void Clients_without_an_address_share_one() => Assert.Equal(ClientNetwork.Of(null), ClientNetwork.Of(null));
}

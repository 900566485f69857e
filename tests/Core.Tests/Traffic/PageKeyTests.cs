using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.CoreTests.Traffic;

public class PageKeyTests
{
    /// <summary>An address as it is sent, and the page as a browser reports it.</summary>
    [Theory]
    [InlineData("https://m.example?utm_source=a", "https://m.example/?utm_source=a")]
    [InlineData("https://m.example:443/a%20b?x=1#top", "https://m.example/a%20b")]
    [InlineData("http://m.example:80/a", "http://m.example/a")]
    [InlineData("http://m.example:8080/a", "http://m.example:8080/a?y")]
    public void An_address_and_the_page_it_opens_have_one_key(string sent, string reported) =>
        Assert.Equal(PageKey.Of(DestinationReader.Read(reported).Destination!.Page), PageKey.OfAddress(sent));

    [Theory]
    [InlineData("https://m.example/a", "https://m.example/A")]
    [InlineData("https://m.example/a", "https://m.example/a/")]
    [InlineData("https://m.example/a", "https://n.example/a")]
    [InlineData("https://m.example:8080/a", "https://m.example/a")]
    public void Other_pages_have_other_keys(string one, string other) => Assert.NotEqual(PageKey.OfAddress(one), PageKey.OfAddress(other));

    [Fact]
    public void What_leads_nowhere_has_none() => Assert.Equal(PageKey.Unknown, PageKey.OfAddress(null));
}

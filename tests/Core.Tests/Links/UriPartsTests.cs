using PreciseBeacon.Core.Links;

namespace PreciseBeacon.CoreTests.Links;

public sealed class UriPartsTests
{
    /// <summary>The example of RFC 3986, Appendix B, and reference forms of its sections 3 and 5.4.</summary>
    [Theory]
    [InlineData("http://www.ics.uci.edu/pub/ietf/uri/#Related", "http", "www.ics.uci.edu", "/pub/ietf/uri/", null, "Related")]
    [InlineData("foo://example.com:8042/over/there?name=ferret#nose", "foo", "example.com:8042", "/over/there", "name=ferret", "nose")]
    [InlineData("urn:example:animal:ferret:nose", "urn", null, "example:animal:ferret:nose", null, null)]
    [InlineData("//g?y/./x", null, "g", "", "y/./x", null)]
    [InlineData("g;x=1/../y#s/../x", null, null, "g;x=1/../y", null, "s/../x")]
    [InlineData("?", null, null, "", "", null)]
    [InlineData("", null, null, "", null, null)]
    public void Splits_as_the_appendix_does(string text, string? scheme, string? authority, string path, string? query, string? fragment)
    {
        var parts = UriParts.Split(text);
        Assert.Equal(new UriParts(scheme, authority, path, query, fragment), parts);
        Assert.Equal(text, parts.ToString());
    }
}

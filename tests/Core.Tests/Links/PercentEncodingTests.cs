using PreciseBeacon.Core.Links;

namespace PreciseBeacon.CoreTests.Links;

public sealed class PercentEncodingTests
{
    /// <summary>RFC 3986, section 2.3: exactly these characters stay.</summary>
    [Fact]
    public void Unreserved_characters_stay_and_every_other_ascii_character_does_not()
    {
        const string unreserved = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-._~";
        for (char c = ' '; c <= '~'; c++)
        {
            string encoded = PercentEncoding.EncodeValue(c.ToString());
            Assert.Equal(unreserved.Contains(c, StringComparison.Ordinal) ? c.ToString() : $"%{(int)c:X2}", encoded);
        }
    }

    /// <summary>RFC 3986, section 2.5: the examples of a Latin capital A with grave and a Katakana A.</summary>
    [Theory]
    [InlineData("À", "%C3%80")]
    [InlineData("ア", "%E3%82%A2")]
    public void Octets_of_utf8_are_written_with_upper_case_digits(string text, string encoded) =>
        Assert.Equal(encoded, PercentEncoding.EncodeValue(text));

    /// <summary>The URL Standard's application/x-www-form-urlencoded parser.</summary>
    [Theory]
    [InlineData("a+b", "a b")]
    [InlineData("a%2Bb", "a+b")]
    [InlineData("100%", "100%")]
    [InlineData("%zz%4", "%zz%4")]
    [InlineData("%e3%82%a2", "ア")]
    [InlineData("%FF", "\uFFFD")]
    public void Decodes_as_a_form_parser_does(string text, string decoded) => Assert.Equal(decoded, PercentEncoding.Decode(text));
}

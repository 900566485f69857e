using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.CoreTests.Traffic;

public sealed class BrowserLanguageTests
{
    /// <summary>The example of RFC 9110, section 12.5.4, and tags of RFC 5646.</summary>
    [Theory]
    [InlineData("da, en-gb;q=0.8, en;q=0.7", "da")]
    [InlineData("en-IE,en;q=0.9,ga;q=0.8", "en")]
    [InlineData("zh-Hant-HK", "zh")]
    [InlineData("DE_at", "de")]
    [InlineData("haw", "haw")]
    [InlineData("*", "")]
    [InlineData("", "")]
    [InlineData("x", "")]
    [InlineData("e[;", "")]
    [InlineData("verylongsubtag", "")]
    public void The_first_language_counts_by_its_primary_subtag(string header, string language) =>
        Assert.Equal(language, BrowserLanguage.Of(header));
}

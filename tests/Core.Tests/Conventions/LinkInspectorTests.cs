using PreciseBeacon.Core.Conventions;
using static PreciseBeacon.CoreTests.Conventions.GardenConvention;

namespace PreciseBeacon.CoreTests.Conventions;

public sealed class LinkInspectorTests
{
    private const string Right = "https://marrowmere.example/x?q=1&utm_source=nattervine&utm_medium=email&utm_campaign=spring";

    [Theory]
    [InlineData(Right)]
    [InlineData("https://marrowmere.example/x?q=1?utm_source=nattervine&utm_medium=email&utm_campaign=spring")]
    [InlineData("https://marrowmere.example/x?q=1&amp;utm_source=nattervine&amp;utm_medium=E-Mail&amp;utm_campaign=Spring")]
    [InlineData("https://marrowmere.example/x?q=1&utm_soruce=nattervine&utm-medium=email&UTM_CAMPAIGN=spring")]
    [InlineData("https://marrowmere.example/x?q=1&utm_source=natter%2576ine&utm_medium=email&utm_campaign=spring")]
    [InlineData("https://marrowmere.example/x?q=1#utm_source=nattervine&utm_medium=email&utm_campaign=spring")]
    [InlineData("  marrowmere.example/x?q=1&utm_source=nattervine&utm_medium=email&utm_campaign=spring&utm_source=again")]
    public void A_faulty_link_is_mended(string pasted) => Assert.Equal(Right, LinkInspector.Inspect(Garden, pasted, Facts).Mended?.Tagged?.Url);

    [Fact]
    public void A_right_link_comes_apart_without_a_notice()
    {
        var link = LinkInspector.Inspect(Garden, Right, Facts);
        Assert.Empty(link.Notices);
        Assert.Equal("https://marrowmere.example/x?q=1", link.Destination);
        Assert.Equal([("q", "1")], link.Others.Select(o => (o.Key, o.Value)));
    }

    [Fact]
    public void Every_fault_is_told_once()
    {
        var link = LinkInspector.Inspect(Garden, "https://marrowmere.example/x?a=1?utm_soruce=natervine&amp;utm_medium=emial", Facts);
        Assert.Equal(
            ["ampersand-entity", "missing-required", "second-question-mark", "word-new", "word-unknown"],
            link.Notices.Select(n => n.Rule).Order());
    }

    [Fact]
    public void What_is_no_web_address_says_why() =>
        Assert.Equal("destination-refused", Assert.Single(LinkInspector.Inspect(Garden, "mailto:a@b.example", Facts).Notices).Rule);

    /// <summary>A percent sign or a plus that was meant is no sign of double encoding.</summary>
    [Theory]
    [InlineData("50%25%20off", "50%25_off", false)]
    [InlineData("a%25%26%2Bb", "a%25%26%2Bb", false)]
    [InlineData("header%2520button", "header_button", true)]
    [InlineData("a%252Bb%2Bc", "a%2Bb%2Bc", true)]
    public void Only_what_was_encoded_twice_is_decoded_again(string written, string mended, bool noticed)
    {
        var read = LinkInspector.Inspect(GardenConvention.Garden, $"https://marrowmere.example/?utm_source=nattervine&utm_medium=social&utm_campaign=x&utm_content={written}", GardenConvention.Facts);
        Assert.EndsWith($"&utm_content={mended}", read.Mended!.Tagged!.Url, StringComparison.Ordinal);
        Assert.Equal(noticed, read.Notices.Any(n => n.Rule == "encoded-twice"));
    }
}

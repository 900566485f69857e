using System.Text.RegularExpressions;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.CoreTests.Conventions;
using static PreciseBeacon.CoreTests.Conventions.GardenConvention;

namespace PreciseBeacon.CoreTests.Composing;

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
    public void A_faulty_link_is_mended(string pasted) =>
        Assert.Equal(Right, LinkInspector.Inspect(Garden, pasted, Facts).Mended?.Tagged?.Url);

    /// <summary>A question mark is legal in a query (RFC 3986, section 3.4): only what begins with a key of the convention is mended.</summary>
    [Theory]
    [InlineData("u=https://vale.example/?p=1", "u=https://vale.example/?p=1", false)]
    [InlineData("u=https://vale.example/?p=1&b=2?c", "u=https://vale.example/?p=1&b=2?c", false)]
    [InlineData("q=what?content", "q=what?content", false)]
    [InlineData("u=https://vale.example/?p=1?utm_content=a", "u=https://vale.example/?p=1&utm_content=a", true)]
    [InlineData("u=a?utm_contnet=a", "u=a&utm_content=a", true)]
    public void A_question_mark_in_the_query_is_mended_before_a_key_of_ours_alone(string query, string mended, bool noticed)
    {
        const string Tags = "utm_source=nattervine&utm_medium=email&utm_campaign=spring";
        var link = LinkInspector.Inspect(Garden, $"https://marrowmere.example/go?{Tags}&{query}", Facts);
        Assert.Equal(
            $"https://marrowmere.example/go?{Tags}&{mended}",
            Regex.Replace(link.Mended!.Tagged!.Url, "(&utm_content=a)(.*)", "$2$1")
        );
        Assert.Equal(noticed, link.Notices.Any(n => n.Rule == "second-question-mark"));
        Assert.All(link.Notices.Where(n => n.Rule == "second-question-mark"), n =>
            Assert.Contains(mended.Split('&')[0], n.Repair!.Value, StringComparison.Ordinal)
        );
    }

    /// <summary>While it is typed it is a piece of information; a link in use has split a campaign by it.</summary>
    [Theory]
    [InlineData("utm_content=Header", "case-changed")]
    [InlineData("utm_content=header%20button", "space-changed")]
    [InlineData("utm_content=%20header", "space-changed")]
    public void A_wrong_case_or_space_in_a_link_in_use_is_a_warning(string tag, string rule)
    {
        string url = $"{Right}&{tag}";
        Assert.Equal(Severity.Warning, LinkInspector.Inspect(Garden, url, Facts).Notices.Single(n => n.Rule == rule).Severity);
        var typed = LinkPipeline.Run(
            Garden,
            new LinkRequest(
                "https://marrowmere.example/",
                new Dictionary<string, string> { ["utm_content"] = tag.Contains('H') ? "Header" : " header  button" }
            ),
            Facts
        );
        Assert.Equal(Severity.Info, typed.Notices.Single(n => n.Rule == rule).Severity);
    }

    /// <summary>What was typed as if it were encoded is read back as it was typed, and the repair is offered.</summary>
    [Theory]
    [InlineData("%41%2520", "A%20")]
    [InlineData("header%20button", "header button")]
    public void A_value_that_looks_encoded_is_read_back_as_it_was_typed(string typed, string offered)
    {
        var link = LinkPipeline.Run(
            Garden,
            new LinkRequest("https://marrowmere.example/", new Dictionary<string, string> { ["utm_content"] = typed }),
            Facts
        );
        var read = LinkInspector.Inspect(Garden, link.Tagged!.Url, Facts, decodeTwice: false);
        Assert.Equal(typed, read.Mended!.Fields.Single(f => f.Key == "utm_content").Value);
        Assert.Equal(link.Tagged.Url, read.Mended.Tagged!.Url);
        Assert.Equal(offered, read.Notices.Single(n => n.Rule == "encoded-twice").Repair!.Value);
        Assert.Equal(offered, link.Notices.Single(n => n.Rule == "encoded-twice").Repair!.Value);
    }

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
            link.Notices.Select(n => n.Rule).Order()
        );
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
        var read = LinkInspector.Inspect(
            GardenConvention.Garden,
            $"https://marrowmere.example/?utm_source=nattervine&utm_medium=social&utm_campaign=x&utm_content={written}",
            GardenConvention.Facts
        );
        Assert.EndsWith($"&utm_content={mended}", read.Mended!.Tagged!.Url, StringComparison.Ordinal);
        Assert.Equal(noticed, read.Notices.Any(n => n.Rule == "encoded-twice"));
    }
}

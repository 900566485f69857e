using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.CoreTests.Composing;

public sealed class TagWriterTests
{
    private static readonly LinkSettings Braces = new(Live: PlaceholderShapes.Braces);

    private static TaggedUrl Compose(string destination, LinkSettings settings, params Tag[] tags) =>
        TagWriter.Write(DestinationReader.Read(destination).Destination!, tags, settings);

    [Theory]
    [InlineData("https://m.example", "https://m.example?a=1")]
    [InlineData("https://m.example/?", "https://m.example/?a=1")]
    [InlineData("https://m.example/x?b", "https://m.example/x?b&a=1")]
    [InlineData("https://m.example/x?b=1&", "https://m.example/x?b=1&a=1")]
    [InlineData("https://m.example/x?b=1#t?c", "https://m.example/x?b=1&a=1#t?c")]
    [InlineData("https://m.example/#/r?id=7", "https://m.example/?a=1#/r?id=7")]
    [InlineData("https://m.example/x?A=9&b=2", "https://m.example/x?a=1&b=2")]
    [InlineData("https://m.example/a%2Fb?q=%2520", "https://m.example/a%2Fb?q=%2520&a=1")]
    [InlineData("m.example/é", "https://m.example/%C3%A9?a=1")]
    [InlineData("https://m.example/;v=1.2/%7Ex/%2e/../b", "https://m.example/;v=1.2/%7Ex/%2e/../b?a=1")]
    [InlineData("https://m.example/x?b=1&b=2&b=1", "https://m.example/x?b=1&b=2&b=1&a=1")]
    [InlineData("http://[2001:db8::7]:8080/x", "http://[2001:db8::7]:8080/x?a=1")]
    [InlineData("https://bücher.example/x", "https://xn--bcher-kva.example/x?a=1")]
    [InlineData("https://m.example/x?b=a+b%20c", "https://m.example/x?b=a+b%20c&a=1")]
    public void Tags_go_after_the_query_and_before_the_fragment(string destination, string url) =>
        Assert.Equal(url, Compose(destination, new LinkSettings(), new Tag("a", "1")).Url);

    [Theory]
    [InlineData("50% off&more", "50%25%20off%26more")]
    [InlineData("{kw} x", "{kw}%20x")]
    [InlineData("a=b#c", "a%3Db%23c")]
    [InlineData("é", "%C3%A9")]
    [InlineData("e\u0301", "%C3%A9")]
    [InlineData("😀", "%F0%9F%98%80")]
    [InlineData("אב", "%D7%90%D7%91")]
    [InlineData("a-b._~", "a-b._~")]
    public void Values_are_encoded_as_utf8_outside_the_unreserved_characters(string value, string encoded) =>
        Assert.Equal($"https://m.example/?a={encoded}", Compose("https://m.example/", Braces, new Tag("a", value)).Url);

    [Fact]
    public void A_space_may_be_written_as_plus() =>
        Assert.Equal(
            "https://m.example?a=x+y%2B",
            Compose("https://m.example", new LinkSettings(PlusForSpace: true), new Tag("a", "x y+")).Url
        );

    [Theory]
    [InlineData(PlaceholderShapes.Braces, "{kw}", "{kw}")]
    [InlineData(PlaceholderShapes.None, "{kw}", "%7Bkw%7D")]
    [InlineData(PlaceholderShapes.DoubleBraces, "{{ad.name}}", "{{ad.name}}")]
    [InlineData(PlaceholderShapes.Brackets, "[id]", "[id]")]
    [InlineData(PlaceholderShapes.Percents, "%%id%%", "%%id%%")]
    [InlineData(PlaceholderShapes.Dollars, "$id$", "$id$")]
    [InlineData(PlaceholderShapes.Underscores, "__ID__", "__ID__")]
    [InlineData(PlaceholderShapes.Braces, "@{Heading}", "%40%7BHeading%7D")]
    [InlineData(PlaceholderShapes.Braces, "{two words}", "%7Btwo%20words%7D")]
    public void Only_live_placeholders_stay_literal(PlaceholderShapes live, string value, string written) =>
        Assert.Equal($"https://m.example?a={written}", Compose("https://m.example", new LinkSettings(Live: live), new Tag("a", value)).Url);

    [Theory]
    [InlineData(ExistingTags.Replace, "https://m.example/x?a=1&c=3&b=2", false)]
    [InlineData(ExistingTags.Keep, "https://m.example/x?A=old&c=3&a=older&b=2", false)]
    [InlineData(ExistingTags.Refuse, "https://m.example/x?A=old&c=3&a=older&b=2", true)]
    public void Tags_already_there_follow_the_policy(ExistingTags policy, string url, bool stops)
    {
        var link = Compose(
            "https://m.example/x?A=old&c=3&a=older",
            new LinkSettings(Existing: policy),
            new Tag("a", "1"),
            new Tag("b", "2")
        );
        Assert.Equal(url, link.Url);
        Assert.Equal(["old", "older"], link.Found.Select(f => f.Value));
        Assert.Equal(stops, link.Notices.Any(n => n.Severity == Severity.Error));
        Assert.Contains(link.Notices, n => n.Rule == NoticeRules.DuplicateKey.Name);
    }

    [Fact]
    public void Keys_also_read_count_as_tags_already_there() =>
        Assert.Equal(
            "https://m.example/?a=1&x=2",
            Compose("https://m.example/?src=old&x=2", new LinkSettings(), new Tag("a", "1", ["src"])).Url
        );

    [Theory]
    [InlineData("https://m.example/x", "https://m.example/x#a=1")]
    [InlineData("https://m.example/x#top", "https://m.example/x#top?a=1")]
    [InlineData("https://m.example/x#/list?page=2", "https://m.example/x#/list?page=2&a=1")]
    [InlineData("https://m.example/x?a=0#b=2", "https://m.example/x#b=2&a=1")]
    public void Fragment_style_puts_tags_behind_the_hash(string destination, string url)
    {
        var link = Compose(destination, new LinkSettings(TagStyle.Fragment), new Tag("a", "1"));
        Assert.Equal(url, link.Url);
        Assert.Contains(link.Notices, n => n.Rule == NoticeRules.TagsAfterHash.Name);
    }

    [Theory]
    [InlineData(1_990, null)]
    [InlineData(2_010, "url-long")]
    [InlineData(8_010, "url-too-long")]
    public void Length_is_noticed_at_2000_and_stopped_at_8000_octets(int pathLength, string? rule)
    {
        // 2,000 is common practice; 8,000 is what RFC 9110, section 4.1 asks servers to support.
        var link = Compose(
            "https://m/".Replace("m/", "m.example/", StringComparison.Ordinal) + new string('p', pathLength - 18),
            new LinkSettings()
        );
        Assert.Equal(rule, link.Notices.SingleOrDefault()?.Rule);
    }

    [Fact]
    public void The_strip_joins_to_the_link_as_shown()
    {
        var link = Compose("https://bücher.example/ä?q=1#t", new LinkSettings(), new Tag("a", "1"), new Tag("b", "ü"));
        Assert.Equal(link.Shown, string.Concat(link.Strip.Select(s => s.Text)));
        Assert.Equal(["a", "b"], link.Strip.Where(s => s.Part == StripPart.Field).Select(s => s.Key));
    }

    [Fact]
    public void Other_forms_carry_the_same_link()
    {
        var forms = LinkForms.Of("https://m.example/(x)?a=1&b=\"2\"", "Tickets [new] <now>");
        Assert.Equal("https%3A%2F%2Fm.example%2F%28x%29%3Fa%3D1%26b%3D%222%22", forms.Encoded);
        Assert.Equal("<a href=\"https://m.example/(x)?a=1&amp;b=&quot;2&quot;\">Tickets [new] &lt;now&gt;</a>", forms.Html);
        Assert.Equal("[Tickets \\[new\\] \\<now\\>](https://m.example/%28x%29?a=1&b=\"2\")", forms.Markdown);
    }
}

using FsCheck.Xunit;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.CoreTests.Links;

/// <summary>The laws of links: what goes in comes out, and doing it twice changes nothing.</summary>
[Properties(Arbitrary = [typeof(LinkArbitraries)], MaxTest = 2_000, QuietOnSuccess = true)]
public sealed class LinkLawsTests
{
    private static readonly LinkSettings Query = new(Live: PlaceholderShapes.Braces | PlaceholderShapes.DoubleBraces);
    private static readonly LinkSettings Fragment = Query with { Style = TagStyle.Fragment };

    [Property]
    public void Reading_a_composed_link_gives_its_values(PastedUrl url, TypedValue a, TypedValue c, bool inFragment)
    {
        var settings = inFragment ? Fragment : Query;
        var tags = LinkArbitraries.Tags(a.Text, c.Text);
        var composed = TagWriter.Write(Read(url.Text), tags, settings);
        var read = LinkReader.Read(Read(composed.Url), tags);
        Assert.Equal(tags.Where(t => t.Value.Length > 0).Select(t => (t.Key, t.Value)), read.Values.Select(v => (v.Key, v.Value)));
    }

    [Property]
    public void Composing_what_was_read_gives_the_same_link(PastedUrl url, TypedValue a, TypedValue c, bool inFragment)
    {
        var settings = inFragment ? Fragment : Query;
        var tags = LinkArbitraries.Tags(a.Text, c.Text);
        string once = TagWriter.Write(Read(url.Text), tags, settings).Url;
        var read = LinkReader.Read(Read(once), tags);
        var again = tags.Select(t => t with { Value = read.Values.GetValueOrDefault(t.Key, "") }).ToList();
        Assert.Equal(once, TagWriter.Write(read.AsWritten, again, settings).Url);
    }

    [Property]
    public void Composing_twice_changes_nothing(PastedUrl url, TypedValue a, TypedValue c, bool inFragment)
    {
        var settings = inFragment ? Fragment : Query;
        var tags = LinkArbitraries.Tags(a.Text, c.Text);
        string once = TagWriter.Write(Read(url.Text), tags, settings).Url;
        Assert.Equal(once, TagWriter.Write(Read(once), tags, settings).Url);
    }

    [Property]
    public void Only_ascii_that_may_stand_in_a_uri_is_sent(PastedUrl url, TypedValue a, TypedValue c)
    {
        string sent = TagWriter.Write(Read(url.Text), LinkArbitraries.Tags(a.Text, c.Text), new LinkSettings()).Url;
        Assert.All(sent, ch =>
            Assert.True(ch is > ' ' and <= '~' && !"\"<>\\^`{|}".Contains(ch, StringComparison.Ordinal), $"{ch} in {sent}")
        );
    }

    private static Destination Read(string url) => DestinationReader.Read(url).Destination ?? throw new InvalidOperationException(url);
}

using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Mails;
using PreciseBeacon.CoreTests.Conventions;

namespace PreciseBeacon.CoreTests.Mails;

public sealed class MailLinkFateTests
{
    [Theory]
    [InlineData("https://marrowmere.example/visit", "Plan", MailFate.Tag)]
    [InlineData(
        "https://marrowmere.example/visit?utm_source=the_trellis&utm_medium=email&utm_campaign=2026-10_all_lantern-nights&utm_starts=2026-10-01&utm_brand=mmr",
        "Plan",
        MailFate.Right
    )]
    [InlineData(
        "https://marrowmere.example/visit?utm_source=The_Trellis&utm_medium=E-Mail&utm_campaign=2026-10_all_lantern-nights&utm_starts=2026-10-01&utm_brand=mmr",
        "Plan",
        MailFate.Mend
    )]
    [InlineData("https://somebody.example/", "A friend", MailFate.Leave)]
    [InlineData("https://mmr.example/lanterns", "Lanterns", MailFate.Leave, "is one of your short links")]
    [InlineData("https://marrowmere.example/unsubscribe?u=1", "here", MailFate.Leave)]
    [InlineData("https://marrowmere.example/m?u=1", "Unsubscribe", MailFate.Leave)]
    [InlineData("mailto:friends@marrowmere.example", "Write", MailFate.Leave)]
    [InlineData("tel:+35315550100", "Call", MailFate.Leave)]
    [InlineData("#top", "Up", MailFate.Leave)]
    [InlineData("", "Nowhere", MailFate.Leave)]
    [InlineData("{{webversion}}", "In the browser", MailFate.Leave)]
    [InlineData("javascript:alert(1)", "No", MailFate.Leave)]
    [InlineData("ftp://marrowmere.example/", "Files", MailFate.Leave)]
    public void Only_links_to_our_sites_are_tagged_and_the_reason_is_said(string href, string text, MailFate fate, string? why = null)
    {
        var facts = LinkFacts.None(new DateOnly(2026, 11, 20)) with
        {
            OwnHosts = new Dictionary<string, TagStyle> { ["marrowmere.example"] = TagStyle.Query },
            ShortHosts = new HashSet<string> { "mmr.example" },
        };
        var found = MailLinkFate.Of(new MailLink(1, 0, 0, '"', href, text, MailPlace.Body, MailShape.Link), SampleFiles.Garden, facts);
        Assert.Equal((fate, fate == MailFate.Right ? "already correct" : found.Why), (found.Fate, found.Why)); // a wrong fate shows its reason
        Assert.Equal(fate == MailFate.Tag, found.Why is null);
        Assert.Equal(why ?? found.Why, found.Why);
    }

    [Fact]
    public void Content_tells_links_apart()
    {
        MailLink[] links =
        [
            new(1, 0, 0, '"', "https://m.example/", "", MailPlace.Header, MailShape.Picture),
            new(2, 0, 0, '"', "https://m.example/", "Read more", MailPlace.Body, MailShape.Button),
            new(3, 0, 0, '"', "https://m.example/", "Read more", MailPlace.Body, MailShape.Button),
            new(
                4,
                0,
                0,
                '"',
                "https://m.example/",
                "Write to a@m.example about the very long story of the winter wreath",
                MailPlace.Body,
                MailShape.Link
            ),
        ];
        Assert.Equal(["header picture", "body button", "body button 2", "body link"], MailContent.Of(links, MailContentBy.Position).Values);
        Assert.Equal(
            ["1 picture", "2 Read more", "3 Read more", "4 Write to about the very long story of"],
            MailContent.Of(links, MailContentBy.NumberAndText).Values
        );
        Assert.Empty(MailContent.Of(links, MailContentBy.Nothing));
    }
}

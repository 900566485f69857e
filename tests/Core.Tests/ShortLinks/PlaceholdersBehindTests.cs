using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions.Document;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.ShortLinks;
using static PreciseBeacon.CoreTests.Conventions.SampleFiles;

namespace PreciseBeacon.CoreTests.ShortLinks;

public class PlaceholdersBehindTests
{
    private const PlaceholderShapes Live = PlaceholderShapes.Braces | PlaceholderShapes.MergeTags;

    [Theory]
    [InlineData("https://m.example/?utm_term=x", CarriedParameters.Overwrite, "https://s.example/a")]
    [InlineData(
        "https://m.example/?utm_source=w&utm_term={keyword}",
        CarriedParameters.Overwrite,
        "https://s.example/a?utm_term={keyword}"
    )]
    [InlineData(
        "https://m.example/?id={{ contact.id }}&utm_term={keyword}",
        CarriedParameters.Overwrite,
        "https://s.example/a?id={{ contact.id }}&utm_term={keyword}"
    )]
    [InlineData("https://m.example/?utm_term={keyword}", CarriedParameters.KeepTags, "https://m.example/?utm_term={keyword}")]
    [InlineData("https://m.example/?utm_term={keyword}", CarriedParameters.Nothing, "https://m.example/?utm_term={keyword}")]
    [InlineData("https://m.example/{id}?utm_term={keyword}", CarriedParameters.Overwrite, "https://m.example/{id}?utm_term={keyword}")]
    [InlineData("https://m.example/?c=@{click.country}", CarriedParameters.Nothing, "https://s.example/a")]
    public void What_is_placed_has_every_placeholder_where_it_is_filled_in(string url, CarriedParameters carries, string placed)
    {
        Assert.Equal(placed, PlaceholdersBehind.UrlToCopy(url, "https://s.example/a", carries, Live));
        Assert.Equal(url, PlaceholdersBehind.UrlToCopy(url, null, carries, Live));
    }

    [Fact]
    public void What_the_platform_filled_in_behind_the_short_link_takes_the_placeholders_place() =>
        Assert.Equal(
            "https://m.example/?utm_source=w&utm_term=orchids",
            CarriedQuery.Onto("https://m.example/?utm_source=w&utm_term={keyword}", "?utm_term=orchids", CarriedParameters.Overwrite)
        );

    [Theory]
    [InlineData(
        true,
        "“{keyword}” is filled in only in the long link, not behind a short link; copy the long link, or carry parameters through the short link."
    )]
    [InlineData(false, null)]
    public void A_placeholder_behind_a_short_link_is_noticed(bool behind, string? says)
    {
        var link = LinkPipeline.Run(
            Garden,
            new LinkRequest(
                "https://marrowmere.example/",
                new Dictionary<string, string> { ["Term"] = "{keyword}" },
                Campaigns["Lantern Nights"],
                Placements["Wendfar search ads"],
                BehindShortLink: behind
            ),
            LinkFacts.None(new DateOnly(2026, 10, 2))
        );
        Assert.Equal(says, link.Notices.SingleOrDefault(n => n.Rule == "placeholder-on-short-link")?.Message);
    }

    [Fact]
    public void A_merge_tag_in_the_pages_own_address_stays_as_it_is_where_it_is_live_and_is_noticed_where_it_is_not()
    {
        const string page = "https://marrowmere.example/a?id={{ contact.id }}";
        var asked = new LinkRequest(
            page,
            new Dictionary<string, string> { ["Content"] = "Hi *|FNAME|* There" },
            Campaigns["Lantern Nights"],
            Placements["The Trellis"]
        );
        var facts = LinkFacts.None(new DateOnly(2026, 10, 2));
        var encoded = LinkPipeline.Run(Garden, asked, facts);
        Assert.Contains(encoded.Notices, n =>
            n.Rule == "placeholder-foreign" && n.Message.Contains("{{ contact.id }}", StringComparison.Ordinal)
        );
        Assert.StartsWith("https://marrowmere.example/a?id=%7B%7B%20contact.id%20%7D%7D&", encoded.Tagged!.Url, StringComparison.Ordinal);

        var mail = ConventionYaml
            .Read(File.ReadAllText(PathOf("garden-convention.yaml")))
            .ToConvention(1, new LinkSettings(Live: PlaceholderShapes.MergeTags));
        var literal = LinkPipeline.Run(mail, asked, facts);
        Assert.StartsWith(page + "&", literal.Tagged!.Url, StringComparison.Ordinal);
        Assert.Contains("utm_content=hi_*|FNAME|*_there", literal.Tagged.Url, StringComparison.Ordinal);
        Assert.Equal(literal.Tagged.Url, literal.Tagged.Shown);
        Assert.DoesNotContain(literal.Notices, n => n.Rule == "placeholder-foreign");
        Assert.Equal(literal.Tagged.Url, LinkInspector.Inspect(mail, literal.Tagged.Url, facts).Mended!.Tagged!.Url);
    }
}

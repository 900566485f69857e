using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.CoreTests.Traffic;

/// <summary>A visit finds the link whose tags it carries, placeholders filled in or not.</summary>
public sealed class LinkKeyTests
{
    private static readonly string[] Keys = ["utm_source", "utm_medium", "utm_campaign", "utm_term", "utm_content", "region"];

    [Property(MaxTest = 300)]
    public Property A_link_is_the_first_candidate_of_its_own_values(NonEmptyString[] values)
    {
        var given = values
            .Take(Keys.Length)
            .Select((v, i) => (Key: Keys[i], Value: v.Get.Replace("@", "", StringComparison.Ordinal)))
            .ToDictionary(v => v.Key, v => v.Value);
        var backwards = given.Reverse().ToDictionary();
        return (
            !given.Any(v => v.Value.Length > 0) || LinkKey.Candidates(backwards)[0] == LinkKey.Of(given, PlaceholderShapes.None)
        ).ToProperty();
    }

    [Theory]
    [InlineData("{keyword}", "{creative}", true)]
    [InlineData("{keyword} x", "b", true)]
    [InlineData("@{click.country}", "b", true)]
    [InlineData("[keyword]", "b", false)] // a shape that is not live is text
    public void An_open_field_fits_any_value(string term, string content, bool found)
    {
        var link = new Dictionary<string, string>
        {
            ["utm_source"] = "a",
            ["utm_term"] = term,
            ["utm_content"] = content,
        };
        var visit = new Dictionary<string, string>
        {
            ["utm_content"] = "b",
            ["utm_source"] = "a",
            ["utm_term"] = "garden lights",
        };
        Assert.Equal(found, LinkKey.Candidates(visit).Contains(LinkKey.Of(link, PlaceholderShapes.Braces)));
        Assert.DoesNotContain(
            LinkKey.Of(link, PlaceholderShapes.Braces),
            LinkKey.Candidates(new Dictionary<string, string>(visit) { ["utm_source"] = "c" })
        );
        Assert.DoesNotContain(
            LinkKey.Of(link, PlaceholderShapes.Braces),
            LinkKey.Candidates(new Dictionary<string, string>(visit) { ["region"] = "north" })
        );
    }

    [Fact]
    public void No_tags_lead_to_no_link() => Assert.Empty(LinkKey.Candidates(new Dictionary<string, string> { ["utm_source"] = "" }));
}

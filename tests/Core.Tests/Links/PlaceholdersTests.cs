using PreciseBeacon.Core.Links;

namespace PreciseBeacon.CoreTests.Links;

public class PlaceholdersTests
{
    /// <summary>The shapes of rules.md §1.6; each is one atom with nothing before or after it.</summary>
    [Theory]
    [InlineData("{{ contact.id }}")]
    [InlineData("{{contact.id}}")]
    [InlineData("*|ID|*")]
    [InlineData("<%= id %>")]
    [InlineData("<% id %>")]
    [InlineData("%recipient.id%")]
    [InlineData("[[id]]")]
    [InlineData("[[ first name ]]")]
    [InlineData("${id}")]
    public void A_merge_tag_is_one_atom_and_stays_literal(string tag)
    {
        var atom = Assert.Single(Placeholders.Split(tag, PlaceholderShapes.MergeTags));
        Assert.Equal(PlaceholderShapes.MergeTags, atom.Shape);
        Assert.Equal($"a%2F{tag}%26b", PercentEncoding.EncodeValue($"a/{tag}&b", PlaceholderShapes.MergeTags));
        Assert.Equal($"/x?id={tag}%20%C3%A9", PercentEncoding.EncodeForSending($"/x?id={tag} é", PlaceholderShapes.MergeTags));
        Assert.Equal($"a/{tag}&b", PercentEncoding.Decode(PercentEncoding.EncodeValue($"a/{tag}&b", PlaceholderShapes.MergeTags)));
        Assert.DoesNotContain(Placeholders.Split(tag, PlaceholderShapes.None), a => a.IsPlaceholder);
    }

    [Theory]
    [InlineData("{{ }}")]
    [InlineData("{{ a=b }}")]
    [InlineData("20% or 30%")]
    [InlineData("5%off%")]
    [InlineData("%ad.x%")]
    [InlineData("%recipient.id%41")]
    [InlineData("%%recipient.id%%")]
    [InlineData("filter[colour]")]
    [InlineData("a * b | c * d")]
    [InlineData("$5")]
    public void What_only_looks_like_one_is_text(string text) =>
        Assert.DoesNotContain(Placeholders.Split(text, PlaceholderShapes.MergeTags), a => a.IsPlaceholder);

    [Fact]
    public void A_merge_tag_may_stand_beside_an_ad_platforms_placeholder() =>
        Assert.Equal(
            [
                ("${id}", PlaceholderShapes.MergeTags),
                ("-", PlaceholderShapes.None),
                ("{keyword}", PlaceholderShapes.Braces),
                ("[[x]]", PlaceholderShapes.MergeTags),
            ],
            Placeholders
                .Split("${id}-{keyword}[[x]]", PlaceholderShapes.MergeTags | PlaceholderShapes.Braces | PlaceholderShapes.Brackets)
                .Select(a => (a.Text, a.Shape))
        );
}

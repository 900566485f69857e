using PreciseBeacon.Core.ShortLinks;

namespace PreciseBeacon.CoreTests.ShortLinks;

public sealed class LinkSlugsTests
{
    [Theory]
    [InlineData(null, null, "fern", "gate")]
    [InlineData(" Lanterns ", null, "lanterns", "fern")]
    [InlineData(null, "Poster", "fern", "poster")]
    [InlineData("Lanterns", "Poster", "lanterns", "poster")]
    [InlineData("fern", null, "fern", "gate")]
    [InlineData(null, "fern", "gate", "fern")]
    public void A_codes_slug_is_never_the_texts(string? text, string? code, string inTexts, string inCode)
    {
        // What is made up comes twice, as chance may have it.
        var made = new Queue<string>(["fern", "fern", "gate", "gate"]);
        var slugs = LinkSlugs.Of(text, code, made.Dequeue);
        Assert.Equal((inTexts, inCode), (slugs.Text, slugs.Code));
        Assert.NotEqual(slugs.Text, slugs.Code);
    }
}

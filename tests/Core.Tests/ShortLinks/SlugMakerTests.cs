using PreciseBeacon.Core.ShortLinks;

namespace PreciseBeacon.CoreTests.ShortLinks;

public sealed class SlugMakerTests
{
    [Fact]
    public void The_alphabet_has_no_vowels_and_no_look_alikes() => Assert.Empty(SlugMaker.Alphabet.Intersect("aeiouy01l5s8bzq"));

    [Fact]
    public void Slugs_grow_when_one_in_a_thousand_is_taken()
    {
        long space = (long)Math.Pow(SlugMaker.Alphabet.Length, 6);
        Assert.Equal(6, SlugMaker.LengthFor(0));
        Assert.Equal(6, SlugMaker.LengthFor(space / 1_000));
        Assert.Equal(7, SlugMaker.LengthFor((space / 1_000) + 1));
        Assert.Equal(6, SlugMaker.Make(6).Length);
    }

    [Theory]
    [InlineData("lantern-nights", true)]
    [InlineData("Lantern", true)]
    [InlineData("x", false)]
    [InlineData("where", false)]
    [InlineData("-x", false)]
    [InlineData("a_b", false)]
    [InlineData("ü-1", false)]
    public void Chosen_slugs_are_checked(string slug, bool fine) => Assert.Equal(fine, SlugMaker.WhyRefused(slug) is null);
}

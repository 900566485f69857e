using FsCheck.Xunit;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.CoreTests.Links;

namespace PreciseBeacon.CoreTests.Conventions;

public sealed class ValueNormaliserTests
{
    [Theory]
    [InlineData("  Lantern  Nights ", "lantern_nights")]
    [InlineData("e\u0301te\u0301", "été")]
    [InlineData("a\u200Bb", "ab")]
    [InlineData("a _- b", "a_b")]
    [InlineData("_a_", "a")]
    [InlineData("CAFÉ", "café")]
    [InlineData("👩‍🌾 day", "👩‍🌾_day")]
    [InlineData("{Keyword} Ads", "{Keyword}_ads")]
    [InlineData("a\u00A0b\tc", "a_b_c")]
    public void Usual_rules_write_lower_case_with_underscores(string typed, string written) =>
        Assert.Equal(written, ValueNormaliser.Normalise(typed, new ValueRules { Live = PlaceholderShapes.Braces }).Written);

    [Theory]
    [InlineData("summer sale", LetterCase.FirstLetters, SpaceRule.Hyphen, "Summer-Sale")]
    [InlineData("SUMMER_sale", LetterCase.FirstLetters, SpaceRule.Underscore, "Summer_Sale")]
    [InlineData("Summer Sale", LetterCase.AsTyped, SpaceRule.Stay, "Summer Sale")]
    [InlineData("Summer Sale", LetterCase.AsTyped, SpaceRule.Hyphen, "Summer-Sale")]
    public void Case_and_space_follow_the_field(string typed, LetterCase letterCase, SpaceRule space, string written) =>
        Assert.Equal(written, ValueNormaliser.Normalise(typed, new ValueRules(letterCase, space)).Written);

    /// <summary>Unicode's UnicodeData.txt, simple lower-case mappings, and canonical composition (UAX #15).</summary>
    [Theory]
    [InlineData("I", "i")]
    [InlineData("ＡＢＣ", "ａｂｃ")]
    [InlineData("STRAßE", "straße")]
    [InlineData("\u1E9E", "ß")]
    [InlineData("ﬁnal", "ﬁnal")]
    [InlineData("\u212B", "å")]
    [InlineData("\u2126", "ω")]
    [InlineData("A\u030A", "å")]
    [InlineData("ǅ", "ǆ")]
    [InlineData("ΟΔΟΣ", "οδοσ")]
    [InlineData("𐐀", "𐐨")]
    public void Case_follows_unicode_whatever_the_machines_language(string typed, string written) =>
        Assert.Equal(written, ValueNormaliser.Normalise(typed, new ValueRules()).Written);

    [Theory]
    [InlineData("Übergröße", "ubergrosse")]
    [InlineData("Łódź", "lodz")]
    [InlineData("Αθήνα", "athina")]
    public void Transliteration_writes_plain_letters(string typed, string written) =>
        Assert.Equal(written, ValueNormaliser.Normalise(typed, new ValueRules(Transliterate: true)).Written);

    [Fact]
    public void Characters_outside_the_set_are_removed_or_refused()
    {
        Assert.Equal(
            "50off",
            ValueNormaliser
                .Normalise("50% off!", new ValueRules(Characters: CharacterSet.Plain))
                .Written.Replace("_", "", StringComparison.Ordinal)
        );
        Assert.Equal(
            NoticeRules.CharacterRefused,
            ValueNormaliser.Normalise("50%", new ValueRules(Characters: CharacterSet.Plain, Outside: OutsideSet.Refuse)).Problem
        );
    }

    [Fact]
    public void Too_long_is_a_stop_and_never_a_cut()
    {
        var result = ValueNormaliser.Normalise(new string('a', 11), new ValueRules(LongestValue: 10));
        Assert.Equal(NoticeRules.ValueTooLong, result.Problem);
        Assert.Equal(11, result.Written.Length);
    }

    [Fact]
    public void Half_a_character_is_a_stop() =>
        Assert.Equal(NoticeRules.BrokenText, ValueNormaliser.Normalise("a" + '\uD800', new ValueRules()).Problem);

    [Fact]
    public void Every_step_that_changed_something_is_told()
    {
        var steps = ValueNormaliser.Normalise(" Big  Poster", new ValueRules()).Steps;
        Assert.Equal(["outer spaces removed", "repeated spaces joined", "letter case", "space becomes _"], steps.Select(s => s.Name));
        Assert.Equal(" Big  Poster", steps[0].Before);
        Assert.Equal("big_poster", steps[^1].After);
    }

    [Property(Arbitrary = [typeof(LinkArbitraries)], MaxTest = 400, QuietOnSuccess = true)]
    public void Writing_a_written_value_changes_nothing_whatever_the_settings(TypedValue value)
    {
        foreach (var rules in AllRules())
        {
            var once = ValueNormaliser.Normalise(value.Text, rules);
            if (once.Problem is null)
            {
                Assert.Equal(once.Written, ValueNormaliser.Normalise(once.Written, rules).Written);
            }
        }
    }

    private static IEnumerable<ValueRules> AllRules() =>
        from letterCase in Enum.GetValues<LetterCase>()
        from space in Enum.GetValues<SpaceRule>()
        from characters in Enum.GetValues<CharacterSet>()
        from outside in Enum.GetValues<OutsideSet>()
        from transliterate in new[] { false, true }
        from live in new[] { PlaceholderShapes.None, PlaceholderShapes.Braces, PlaceholderShapes.All }
        select new ValueRules(letterCase, space, characters, outside, transliterate) { Live = live };
}

using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.CoreTests.Composing;

/// <summary>A name can always be taken apart into what it was put together from.</summary>
public sealed class NameValueTests
{
    private static readonly NamePattern Two = new('_', [new NamePart(), new NamePart()]);

    public sealed record Case(NamePattern Pattern, ValueRules Rules, IReadOnlyList<string> Values);

    public static Arbitrary<Case> Cases()
    {
        var text = Gen.OneOf(
            Gen.Elements(
                "paid social",
                "North Coast",
                "a_b-c d",
                "{ad_id} x",
                "Größe",
                "İzmir",
                "--",
                "_",
                "ﬁne",
                "１２",
                "e\u0301",
                "x__y",
                "q1",
                "日本 語",
                "a.b~c",
                "{a}{b_c}"
            ),
            ArbMap.Default.GeneratorFor<NonNull<string>>().Select(s => s.Get)
        );
        return (
            from separator in Gen.Elements('_', '-')
            from letterCase in Gen.Elements(Enum.GetValues<LetterCase>())
            from space in Gen.Elements(Enum.GetValues<SpaceRule>())
            from characters in Gen.Elements(Enum.GetValues<CharacterSet>())
            from transliterate in Gen.Elements(true, false)
            from live in Gen.Elements(
                PlaceholderShapes.None,
                PlaceholderShapes.Braces,
                PlaceholderShapes.Braces | PlaceholderShapes.DoubleBraces | PlaceholderShapes.Brackets
            )
            from values in text.NonEmptyListOf()
            from filled in Gen.Elements(true, false)
            let rules = new ValueRules(letterCase, space, characters, OutsideSet.Remove, transliterate) { Live = live }
            select new Case(
                new NamePattern(separator, [.. values.Select(_ => new NamePart { Filler = filled ? "all" : null })]),
                rules,
                [.. values]
            )
        ).ToArbitrary();
    }

    [Property(Arbitrary = [typeof(NameValueTests)], MaxTest = 2_000, QuietOnSuccess = true)]
    public Property Any_legal_parts_come_apart_into_the_same_parts(Case given)
    {
        var (name, missing) = NameValue.Compose(given.Pattern, given.Rules, given.Values);
        if (missing.Count > 0)
        {
            return (name.Length == 0).ToProperty();
        }

        string[] expected =
        [
            .. given.Values.Select(
                (v, i) =>
                    NameValue.WritePart(v, given.Rules, given.Pattern) is { Length: > 0 } part
                        ? part
                        : NameValue.WritePart(given.Pattern.Parts[i].Filler!, given.Rules, given.Pattern)
            ),
        ];
        var apart = NameValue.TakeApart(given.Pattern, given.Rules, name);
        var field = given.Rules with { LongestValue = int.MaxValue };
        return (
            apart is not null
            && apart.SequenceEqual(expected)
            && (given.Rules.Space == SpaceRule.Stay || ValueNormaliser.Normalise(name, field).Written == name)
        ).Label($"{name} ⇒ {(apart is null ? "null" : string.Join(" | ", apart))}");
    }

    [Theory]
    [InlineData("paid social", "North Coast", "paid-social_north-coast")] // the design's own example
    [InlineData("paid_social", "north_coast", "paid-social_north-coast")]
    [InlineData("{ad_id}", "x", "{ad_id}_x")]
    public void A_space_inside_a_part_becomes_the_other_separator(string one, string other, string name)
    {
        var rules = new ValueRules { Live = PlaceholderShapes.Braces };
        Assert.Equal(name, NameValue.Compose(Two, rules, [one, other]).Name);
        Assert.Equal(name[(name.LastIndexOf('_') + 1)..], NameValue.TakeApart(Two, rules, name)![1]);
    }

    [Theory]
    [InlineData("2026-10_summer_x", null)] // too many parts
    [InlineData("2026-13_all_summer", null)] // no such month
    [InlineData("2026-10_all_", null)]
    [InlineData("2026-10_all_summer", "2026-10|all|summer")]
    [InlineData("2026-10_north-coast_summer", "2026-10|north-coast|summer")]
    public void What_was_not_composed_this_way_does_not_fit(string name, string? parts)
    {
        var pattern = new NamePattern(
            '_',
            [
                new NamePart { Kind = NamePartKind.Date, Form = DateForm.Month },
                new NamePart { Filler = "all" },
                new NamePart { Kind = NamePartKind.Literal, Of = "Summer" },
            ]
        );
        Assert.Equal(parts?.Split('|'), NameValue.TakeApart(pattern, new ValueRules(), name));
    }
}

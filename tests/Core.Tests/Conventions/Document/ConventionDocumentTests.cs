using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Document;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.CoreTests.Conventions.Document;

public sealed class ConventionDocumentTests
{
    private static readonly ConventionDocument Plain = new()
    {
        Fields =
        [
            new()
            {
                Key = "utm_source",
                Label = "Source",
                Presence = Presence.Required,
            },
            new()
            {
                Key = "utm_medium",
                Label = "Medium",
                Presence = Presence.Required,
                List = ListKind.Closed,
                Words =
                [
                    new()
                    {
                        Written = "email",
                        Label = "Mail",
                        Aliases = ["e-mail"],
                    },
                    new() { Written = "social" },
                ],
            },
            new() { Key = "utm_campaign", Label = "Campaign" },
        ],
        Channels = [.. StartingChannels.Table.Rows.Select(ChannelDocument.Of)],
        Referrers = [new() { Host = "wendfar.example", Kind = ReferrerKind.SearchEngine }],
    };

    public static Arbitrary<ConventionDocument> Documents() =>
        (
            from texts in Gen.Elements(
                    "plain",
                    "with: colon",
                    "'quoted'",
                    "\"double\"",
                    "multi\nline",
                    " spaces ",
                    "#hash",
                    "- dash",
                    "~",
                    "null",
                    "yes",
                    "0x1F",
                    "1e3",
                    "ü€😀",
                    "",
                    "*star",
                    "@at",
                    "tab\there"
                )
                .ListOf(12)
            from key in Gen.Elements("utm_source", "src", "x.y", "k-1")
            from list in Gen.Elements(ListKind.None, ListKind.Open, ListKind.Closed)
            from letterCase in Gen.Elements(Enum.GetValues<LetterCase>())
            from longest in Gen.Choose(1, 1_000)
            from flag in Gen.Elements(true, false)
            from kind in Gen.Elements(Enum.GetValues<FieldKind>())
            from part in Gen.Elements(Enum.GetValues<NamePartKind>())
            from form in Gen.Elements(Enum.GetValues<DateForm>())
            from severity in Gen.Elements(Enum.GetValues<Severity>())
            from presence in Gen.Elements(Enum.GetValues<Presence>())
            from style in Gen.Elements(Enum.GetValues<TagStyle>())
            select new ConventionDocument
            {
                Style = style,
                SealedKey = flag ? texts[0] : null,
                Choices =
                [
                    new ChoiceDocument
                    {
                        Field = texts[1],
                        Word = texts[2],
                        Narrows = texts[3],
                        To = [texts[4], texts[5]],
                    },
                ],
                Severities = new Dictionary<string, Severity> { ["word-new"] = severity, [texts[6] + "x"] = severity },
                ReadBy = [new ReadingSystemDocument { Name = texts[7], Keys = [texts[8]] }],
                Fields =
                [
                    new FieldDocument
                    {
                        Kind = kind,
                        DateForm = form,
                        Fixed = flag ? texts[9] : null,
                        Presence = presence,
                        PresenceIn = new Dictionary<string, Presence> { [texts[10] + "y"] = presence },
                        Pattern = flag
                            ? new PatternDocument
                            {
                                Separator = "-",
                                Parts =
                                [
                                    new NamePart
                                    {
                                        Kind = part,
                                        Of = texts[11],
                                        Form = form,
                                        Filler = flag ? texts[0] : null,
                                    },
                                    new NamePart(),
                                ],
                            }
                            : null,
                        Key = key,
                        Label = texts[0],
                        List = list,
                        Case = letterCase,
                        LongestValue = longest,
                        HoldsNumbers = flag,
                        Hint = texts[1],
                        Example = texts[2],
                        AlsoRead = [texts[3], texts[4]],
                        Words =
                        [
                            new WordDocument
                            {
                                Written = texts[5],
                                Label = texts[6],
                                Aliases = [texts[7]],
                                Retired = flag,
                                Successor = texts[8],
                            },
                        ],
                    },
                ],
                Channels =
                [
                    new ChannelDocument
                    {
                        Name = texts[9],
                        Group = texts[10],
                        Conditions =
                        [
                            new ConditionDocument
                            {
                                Subject = ChannelSubject.ReferrerKind,
                                Test = ChannelTest.Contains,
                                Values = [texts[11], "x"],
                            },
                        ],
                    },
                ],
            }
        ).ToArbitrary();

    [Property(Arbitrary = [typeof(ConventionDocumentTests)], MaxTest = 300, QuietOnSuccess = true)]
    public void A_file_written_read_and_written_again_is_the_same_text(ConventionDocument document)
    {
        string file = ConventionYaml.Write(document);
        Assert.Equal(file, ConventionYaml.Write(ConventionYaml.Read(file)));
    }

    [Fact]
    public void A_document_becomes_the_convention_the_rules_work_with()
    {
        var convention = ConventionYaml.Read(ConventionYaml.Write(Plain)).ToConvention(3, new LinkSettings());
        Assert.Equal(["utm_source", "utm_medium", "utm_campaign"], convention.Fields.Select(f => f.Key));
        Assert.Equal("email", convention.Find("medium")!.Words!.Match("E-Mail").Word!.Written);
        Assert.Equal("Newsletter and mail", convention.Channels.ClaimOf(ChannelFacts.OfLink("x", "email", ""))!.Name);
    }

    [Theory]
    [InlineData("", "empty")]
    [InlineData("fields: 5", "Line 1")]
    [InlineData("fields:\n  - key: a\n    kolour: b", "Line 3")]
    [InlineData("fields:\n  - key: a\n    presence: sometimes", "Line 3")]
    [InlineData("fields: [", "Line")]
    public void A_broken_file_is_named_by_its_line(string yaml, string says) =>
        Assert.Contains(says, Assert.Throws<ConventionException>(() => ConventionYaml.Read(yaml)).Message, StringComparison.Ordinal);

    public static TheoryData<ConventionDocument, string> Wrong =>
        new()
        {
            { Plain with { Fields = [] }, "at least one field" },
            { Plain with { Fields = [.. Plain.Fields, Plain.Fields[0]] }, "utm_source" },
            { Plain with { Fields = [new() { Key = "a b", Label = "A" }] }, "a b" },
            { Plain with { Fields = [new() { Key = "a", Label = " " }] }, "label" },
            {
                Plain with
                {
                    Fields =
                    [
                        new()
                        {
                            Key = "a",
                            Label = "A",
                            LongestValue = 0,
                        },
                    ],
                },
                "longest"
            },
            {
                Plain with
                {
                    Fields =
                    [
                        new()
                        {
                            Key = "a",
                            Label = "A",
                            List = ListKind.Open,
                            Words = [new() { Written = "E Mail" }],
                        },
                    ],
                },
                "e_mail"
            },
            {
                Plain with
                {
                    Fields =
                    [
                        new()
                        {
                            Key = "a",
                            Label = "A",
                            List = ListKind.Open,
                            Words = [new() { Written = "x" }, new() { Written = "x" }],
                        },
                    ],
                },
                "twice"
            },
            { Plain with { Channels = [new() { Name = "A" }, new() { Name = "a" }] }, "Two channels" },
            { Plain with { Channels = [new() { Name = "A", Conditions = [new()] }] }, "without a value" },
            { Plain with { Referrers = [new() { Host = "a.example" }, new() { Host = "A.example" }] }, "twice" },
        };

    [Theory]
    [MemberData(nameof(Wrong))]
    public void What_can_not_be_a_convention_says_why(ConventionDocument document, string says) =>
        Assert.Contains(
            says,
            Assert.Throws<ConventionException>(() => document.ToConvention(1, new LinkSettings())).Message,
            StringComparison.Ordinal
        );

    [Fact]
    public void The_effect_counts_links_and_arrivals_before_anything_is_published()
    {
        var before = Plain.ToConvention(1, new LinkSettings());
        var after = (
            Plain with
            {
                Fields =
                [
                    Plain.Fields[0],
                    Plain.Fields[1] with
                    {
                        Words = [new() { Written = "mail", Aliases = ["email"] }],
                    },
                    new()
                    {
                        Key = "region",
                        Label = "Region",
                        Presence = Presence.Required,
                    },
                ],
                Channels =
                [
                    new()
                    {
                        Name = "All mail",
                        Group = "own",
                        Conditions = [new() { Subject = ChannelSubject.Medium, Values = ["email", "mail"] }],
                    },
                    .. Plain.Channels,
                ],
            }
        ).ToConvention(2, new LinkSettings());
        var effect = new ConventionEffect(before, after);
        effect.AddLink("One", new Dictionary<string, string> { ["utm_source"] = "a", ["utm_medium"] = "social" }, null);
        effect.AddLink(
            "Two",
            new Dictionary<string, string>
            {
                ["utm_source"] = "a",
                ["utm_medium"] = "email",
                ["utm_campaign"] = "c",
                ["region"] = "north",
            },
            null
        );
        effect.AddArrivals(new TrafficSource(1, RawTags.Of([KeyValuePair.Create("utm_medium", "email")]), ""), 12);
        effect.AddArrivals(new TrafficSource(1, RawTags.Of([KeyValuePair.Create("utm_medium", "social")]), ""), 7);

        Assert.Equal((2, 2), (effect.Links, effect.Affected));
        Assert.Equal([("field-unknown", 1), ("missing-required", 1), ("word-unknown", 1)], effect.Rules.Select(r => (r.Rule, r.Links)));
        Assert.Equal(["One"], effect.Rules.Single(r => r.Rule == "word-unknown").Samples.Select(s => s.Title));
        Assert.Equal([new EffectMove("Newsletter and mail", "All mail", 12)], effect.Moves);
        Assert.Equal(12, effect.VisitsMoved);
    }

    [Fact]
    public void Source_and_medium_are_judged_by_the_channels()
    {
        var convention = (
            Plain with
            {
                Fields = [Plain.Fields[0], Plain.Fields[1] with { List = ListKind.None, Words = [] }, Plain.Fields[2]],
            }
        ).ToConvention(1, new LinkSettings());
        Assert.Contains(
            LinkPipeline
                .Judge(convention, new Dictionary<string, string> { ["utm_source"] = "a", ["utm_medium"] = "pigeon" }, null)
                .Notices,
            n => n.Rule == "no-channel"
        );
        Assert.Contains(
            LinkPipeline
                .Judge(convention, new Dictionary<string, string> { ["utm_source"] = "a", ["utm_medium"] = "email" }, "Banners")
                .Notices,
            n => n.Rule == "other-channel"
        );
        Assert.Empty(
            LinkPipeline
                .Judge(convention, new Dictionary<string, string> { ["utm_source"] = "a", ["utm_medium"] = "email" }, "Newsletter and mail")
                .Notices
        );
    }
}

using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Composing.Checks;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Document;
using PreciseBeacon.Core.Conventions.Starting;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Traffic;
using static PreciseBeacon.CoreTests.Conventions.GardenConvention;

namespace PreciseBeacon.CoreTests.Conventions;

/// <summary>Fields of every kind and under every key: renamed, dated, fixed, composed, required by channel, narrowed.</summary>
public sealed class FieldKindTests
{
    private static readonly Convention Samples = SampleFiles.Garden;

    private static ComposedLink Make(Convention convention, string? placement, params (string Key, string Value)[] fields) =>
        LinkPipeline.Run(
            convention,
            new LinkRequest(
                "https://marrowmere.example/",
                fields.ToDictionary(f => f.Key, f => f.Value),
                Lanterns,
                placement is null ? null : SampleFiles.Placements[placement]
            ),
            Facts
        );

    private static string ValueOf(ComposedLink link, string key) => link.Fields.Single(f => f.Key == key).Value;

    [Fact]
    public void A_renamed_key_keeps_its_meaning()
    {
        var document = StartingConventions.Plain.Document;
        var renamed = (
            document with
            {
                Fields =
                [
                    document.Fields[0] with
                    {
                        Key = "src",
                        Means = FieldMeaning.Source,
                        AlsoRead = ["utm_source"],
                    },
                    .. document.Fields.Skip(1),
                ],
            }
        ).ToConvention(1, new LinkSettings());
        var link = Make(renamed, "Nattervine page", ("utm_campaign", "x"));
        Assert.StartsWith("https://marrowmere.example/?src=nattervine&utm_medium=social", link.Tagged!.Url, StringComparison.Ordinal);
        Assert.Equal("nattervine", ValueOf(Make(renamed, null, ("utm_source", "nattervine")), "src"));
        Assert.Equal(
            "https://marrowmere.example/?src=nattervine&utm_medium=social",
            LinkInspector.Inspect(renamed, "https://marrowmere.example/?utm_source=nattervine&utm_medium=social", Facts).Mended!.Tagged!.Url
        );
        Assert.Equal(
            "Own social posts",
            new PreciseBeacon.Core.Reports.TrafficSource(1, RawTags.Of([KeyValuePair.Create("utm_medium", "social")]), "").KeyOf(
                PreciseBeacon.Core.Reports.RowKind.Channel,
                renamed
            )
        );
        Assert.Contains(
            "Two fields",
            Assert
                .Throws<ConventionException>(() =>
                    (
                        document with
                        {
                            Fields =
                            [
                                .. document.Fields,
                                new FieldDocument
                                {
                                    Key = "x",
                                    Label = "X",
                                    Means = FieldMeaning.Source,
                                },
                                new FieldDocument
                                {
                                    Key = "y",
                                    Label = "Y",
                                    Means = FieldMeaning.Source,
                                },
                            ],
                        }
                    ).ToConvention(1, new LinkSettings())
                )
                .Message,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("", "2026-10-01")] // the campaign's first day
    [InlineData("20261105", "2026-11-05")]
    [InlineData("2026-11-05", "2026-11-05")]
    public void A_date_is_written_in_the_fields_form(string typed, string written) =>
        Assert.Equal(written, ValueOf(Make(Samples, "The Trellis", ("First day", typed)), "utm_starts"));

    [Fact]
    public void Without_a_campaign_the_day_is_today() =>
        Assert.Equal(
            "2026-11-25",
            ValueOf(
                LinkPipeline.Run(
                    Samples,
                    new LinkRequest(
                        "https://marrowmere.example/",
                        new Dictionary<string, string>(),
                        null,
                        SampleFiles.Placements["The Trellis"]
                    ),
                    Facts
                ),
                "utm_starts"
            )
        );

    [Fact]
    public void A_fixed_field_and_a_composed_one_come_by_themselves()
    {
        var link = Make(Samples, "The Trellis", ("Region", "North"));
        Assert.Equal(("mmr", ValueOrigin.Fixed), (link.Fields[8].Value, link.Fields[8].From));
        Assert.Equal(("2026-10_north_lantern-nights", ValueOrigin.Composed), (link.Fields[2].Value, link.Fields[2].From));
        Assert.Contains("composed from", link.Fields[2].Steps[0].Name, StringComparison.Ordinal);
        Assert.DoesNotContain(link.Notices, n => n.Rule != "case-changed");
    }

    [Theory]
    [InlineData("Gate poster", true)]
    [InlineData("The Trellis", false)]
    public void A_field_may_be_required_in_one_channel_only(string placement, bool missing) =>
        Assert.Equal(
            missing,
            Make(Samples, placement)
                .Notices.Any(n =>
                    n.Rule == "missing-required"
                    && n.Field == "utm_region"
                    && n.Message.Contains("“Print and codes”", StringComparison.Ordinal)
                )
        );

    [Fact]
    public void One_choice_narrows_another_and_the_channel_offers_its_mediums()
    {
        Assert.Equal(
            ["social", "paid_social"],
            ChoiceCheck.NarrowedTo(Samples, "utm_medium", key => key == "utm_source" ? "nattervine" : "", null)
        );
        Assert.Equal(["email"], ChoiceCheck.NarrowedTo(Samples, "utm_medium", _ => "", "Newsletter and mail"));
        Assert.Null(ChoiceCheck.NarrowedTo(Samples, "utm_medium", _ => "", null));
        Assert.Null(ChoiceCheck.NarrowedTo(Samples, "utm_content", _ => "", "Newsletter and mail"));
    }

    [Fact]
    public void Old_links_are_judged_by_what_they_say()
    {
        var old = new Dictionary<string, string>
        {
            ["utm_source"] = "the_trellis",
            ["utm_medium"] = "email",
            ["utm_campaign"] = "lanterns",
            ["colour"] = "green",
        };
        var rules = LinkPipeline.Judge(Samples, old, null).Notices.Select(n => n.Rule).ToList();
        Assert.Contains("name-does-not-fit", rules);
        Assert.Contains("field-unknown", rules);
        Assert.DoesNotContain("part-missing", rules);
    }

    [Fact]
    public void A_retired_word_stays_valid_on_an_old_link_and_is_refused_on_a_new_one()
    {
        var values = new Dictionary<string, string> { ["utm_source"] = "fernpost", ["utm_medium"] = "social" };
        Assert.DoesNotContain(LinkPipeline.Judge(Samples, values, null).Notices, n => n.Field == "utm_source");
        var anew = Make(Samples, null, ("Source", "fernpost"), ("Medium", "social")).Notices.Single(n => n.Rule == "word-retired");
        Assert.Equal("nattervine", anew.Repair!.Value);
    }

    public static TheoryData<string, string> Wrong =>
        new()
        {
            { "kind: fixed", "needs a value" },
            { "kind: fixed\n    fixed: Big Words", "big_words" },
            { "kind: composed", "at least one part" },
            { "kind: composed\n    pattern:\n      separator: +\n      parts:\n        - kind: campaign", "joined by" },
            {
                "kind: composed\n    pattern:\n      separator: '-'\n      parts:\n        - kind: date\n          form: month",
                "can't be told"
            },
            { "kind: composed\n    pattern:\n      parts:\n        - kind: field\n          of: nothing", "can't be a part" },
            { "kind: composed\n    pattern:\n      parts:\n        - kind: field\n          of: b", "can't be a part" }, // itself
            { "kind: composed\n    pattern:\n      parts:\n        - kind: literal\n          of: '_'", "letters or digits" },
            { "presenceIn:\n      Nowhere: required", "no channel" },
        };

    [Theory]
    [MemberData(nameof(Wrong))]
    public void What_can_not_be_a_field_says_why(string yaml, string says)
    {
        var document = ConventionYaml.Read($"fields:\n  - key: b\n    label: B\n    {yaml}\n");
        Assert.Contains(
            says,
            Assert.Throws<ConventionException>(() => document.ToConvention(1, new LinkSettings())).Message,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("sealedKey: b", "can't be the parameter")]
    [InlineData("style: sealed", "need a parameter")]
    [InlineData("severities:\n  nothing: error", "no rule")]
    [InlineData("choices:\n  - field: b\n    word: x\n    narrows: b\n    to:\n      - y", "two different")]
    [InlineData("choices:\n  - field: b\n    word: x\n    narrows: c", "at least one word")]
    public void What_can_not_be_a_setting_says_why(string yaml, string says)
    {
        var document = ConventionYaml.Read($"fields:\n  - key: b\n    label: B\n  - key: c\n    label: C\n{yaml}\n");
        Assert.Contains(
            says,
            Assert.Throws<ConventionException>(() => document.ToConvention(1, new LinkSettings())).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void Every_start_is_a_convention_its_placements_fit()
    {
        foreach (var start in StartingConventions.All)
        {
            var convention = start.Document.ToConvention(1, new LinkSettings(SealingSecret: Convert.ToBase64String(new byte[32])));
            Assert.Equal(
                ConventionYaml.Write(start.Document),
                ConventionYaml.Write(ConventionYaml.Read(ConventionYaml.Write(start.Document)))
            );
            foreach (var placement in StartingConventions.Placements)
            {
                var link = LinkPipeline.Run(
                    convention,
                    new LinkRequest(
                        "https://marrowmere.example/",
                        new Dictionary<string, string>(),
                        Lanterns,
                        new PlacementChoice(placement.Name, placement.Defaults, Channel: placement.Channel)
                    ),
                    Facts
                );
                Assert.True(link.Ready, start.Name + string.Join(", ", link.Notices));
                Assert.All(link.Notices, n => Assert.Equal(Severity.Info, n.Severity));
            }
        }

        Assert.Equal(StartingChannels.Table.Rows.Count, StartingConventions.Plain.Document.Channels.Count);
    }
}

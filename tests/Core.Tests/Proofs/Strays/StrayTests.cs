using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Proofs.Strays;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.CoreTests.Proofs.Strays;

/// <summary>Strays are found with what they probably mean, and assigning one changes what is read and nothing else (reports, section 5).</summary>
public sealed class StrayTests
{
    private static readonly Convention Convention = new(
        1,
        [
            Listed("utm_source", "the_trellis", "natter_vine", "quill_herald"),
            Listed("utm_medium", new Word("email", "Mail", ["e-mail"]), new Word("social"), new Word("banner")),
            new Field { Key = "utm_campaign", Label = "Campaign" },
            new Field { Key = "utm_content", Label = "Content" },
            Listed("tone", "calm", "bright"),
        ],
        new LinkSettings()
    );

    private static readonly Guid Lantern = Guid.NewGuid();
    private static readonly Guid ItsLink = Guid.NewGuid();

    private static readonly PlanOfVisits Plan = new(
        [
            new CampaignOfVisit(Lantern, "Lantern Nights", "lantern_nights", new Dictionary<string, string>()),
            new CampaignOfVisit(Guid.NewGuid(), "Night Garden", "2026_late_opening", new Dictionary<string, string>()),
            new CampaignOfVisit(Guid.NewGuid(), "Frost Fair", "2025_ff", new Dictionary<string, string>()),
            new CampaignOfVisit(Guid.NewGuid(), "Frost Fair", "2026_ff", new Dictionary<string, string>()),
        ],
        [],
        new Dictionary<Guid, LinkOfVisit> { [ItsLink] = new(ItsLink, "Poster", Lantern, null) }
    );

    private int _id;

    private static Field Listed(string key, params string[] words) => Listed(key, [.. words.Select(w => new Word(w))]);

    private static Field Listed(string key, params Word[] words) =>
        new()
        {
            Key = key,
            Label = key,
            Words = new WordList(words, new ValueRules()),
        };

    private TrafficSource Way(params (string Key, string Value)[] tags) =>
        new(++_id, RawTags.Of(tags.Select(t => KeyValuePair.Create(t.Key, t.Value))), "");

    private static StrayGroup One(params TrafficSource[] sources) => Assert.Single(Find(Plan, sources));

    private static IReadOnlyList<StrayGroup> Find(PlanOfVisits plan, params TrafficSource[] sources) =>
        StrayFinder.Find(sources, id => id, Convention, plan);

    [Theory]
    [InlineData("utm_source", "natter vine", StrayKind.WrittenOtherwise, "natter_vine", true)]
    [InlineData("utm_source", "nattervine", StrayKind.UnknownValue, "natter_vine", false)]
    [InlineData("utm_source", "the_treliss", StrayKind.UnknownValue, "the_trellis", false)]
    [InlineData("utm_source", "somewhere", StrayKind.UnknownValue, null, false)]
    [InlineData("utm_medium", "Social", StrayKind.WrittenOtherwise, "social", true)]
    [InlineData("utm_campaign", "lanternnights", StrayKind.UnknownValue, "lantern_nights", false)]
    [InlineData("utm_campaign", "lantern_night", StrayKind.UnknownValue, "lantern_nights", false)]
    [InlineData("utm_campaign", "Night Gardn", StrayKind.UnknownValue, "2026_late_opening", false)] // near the name of only one
    [InlineData("utm_campaign", "frost_fair", StrayKind.UnknownValue, null, false)] // the name of two
    [InlineData("utm_campaign", "frost", StrayKind.UnknownValue, null, false)]
    [InlineData("tone", "brigth", StrayKind.UnknownValue, "bright", false)]
    [InlineData("utm_soruce", "the_trellis", StrayKind.MisspeltKey, "utm_source", false)]
    [InlineData("utm_flavour", "mint", StrayKind.MisspeltKey, null, false)]
    [InlineData("ref", "group?utm_source=Natter_Vine", StrayKind.SecondQuestionMark, "natter_vine", false)]
    [InlineData("utm_source", "natter_vine?utm_medium=Social", StrayKind.SecondQuestionMark, "natter_vine / social", false)]
    public void A_stray_is_found_with_what_it_probably_means(string key, string value, StrayKind kind, string? likely, bool isSettled)
    {
        var group = One(Way((key, value)));
        Assert.Equal((kind, likely, isSettled), (group.Kind, group.Likely, group.IsSettled));
        var stray = Assert.Single(group.Strays);
        Assert.Equal([_id], stray.Sources);
        Assert.Equal(_id, group.Visits);
    }

    [Theory]
    [InlineData("utm_source", "the_trellis")]
    [InlineData("utm_medium", "e-mail")] // an alias is known
    [InlineData("utm_campaign", "lantern_nights")]
    [InlineData("utm_content", "Anything Goes")] // free text, written one way only
    [InlineData("utm_source", "(many values)")]
    [InlineData("utm_source", "(removed)")]
    [InlineData("utm_term", "spade")] // a standard key the convention has no field for is read all the same
    public void What_is_known_is_no_stray(string key, string value) => Assert.Empty(Find(Plan, Way((key, value))));

    [Fact]
    public void A_campaign_that_the_link_knows_is_no_stray() =>
        Assert.Empty(Find(Plan, Way(("utm_campaign", "lanternnights")) with { LinkId = ItsLink }));

    [Fact]
    public void A_source_without_visits_says_nothing() =>
        Assert.Empty(StrayFinder.Find([Way(("utm_source", "somewhere"))], _ => 0, Convention, Plan));

    /// <summary>A stray counts for a target only where, once assigned, it would say all the target names.</summary>
    [Fact]
    public void Strays_mean_a_target_only_where_they_would_say_all_of_it()
    {
        TrafficSource[] sources =
        [
            Way(("utm_source", "nattervine"), ("utm_medium", "social"), ("utm_campaign", "lantern_nigths")),
            Way(("utm_source", "quill_herald"), ("utm_medium", "banner"), ("utm_campaign", "lantern_nigths")),
            Way(("utm_source", "nattervine"), ("utm_medium", "social"), ("utm_campaign", "lantern_nights")),
        ];
        var byId = sources.ToDictionary(s => s.Id);
        var groups = StrayFinder.Find(sources, id => 10 + id, Convention, Plan);
        long Meaning(params (string Key, string Value)[] values) =>
            StrayMeaning.VisitsOf(groups, values.ToDictionary(v => v.Key, v => v.Value), id => byId[id], id => 10 + id, Convention, Plan);
        Assert.Equal(sources[0].Id + sources[1].Id + 20, Meaning(("utm_campaign", "lantern_nights")));
        Assert.Equal(sources[1].Id + 10, Meaning(("utm_campaign", "lantern_nights"), ("utm_source", "quill_herald")));
        Assert.Equal(0, Meaning(("utm_campaign", "lantern_nights"), ("utm_source", "the_trellis")));
        Assert.Equal(0, Meaning());
    }

    [Fact]
    public void Free_text_written_two_ways_is_found()
    {
        var group = One(Way(("utm_content", "hero_image")), Way(("utm_content", "Hero Image")));
        Assert.Equal((StrayKind.WrittenOtherwise, "hero_image", false), (group.Kind, group.Likely, group.IsSettled));
        Assert.Equal("Hero Image", Assert.Single(group.Strays).When["utm_content"]);
    }

    [Fact]
    public void A_swapped_pair_is_found_as_one_stray()
    {
        var group = One(Way(("utm_source", "E-Mail"), ("utm_medium", "quill herald")));
        Assert.Equal((StrayKind.Swapped, "quill_herald / email"), (group.Kind, group.Likely));
        Assert.Equal("E-Mail / quill herald", group.Strays[0].Shown); // as it arrived, the source first
        Assert.Equal("quill_herald", group.Strays[0].Then["utm_source"]);
        Assert.Equal("email", group.Strays[0].Then["utm_medium"]);
    }

    [Fact]
    public void Strays_that_mean_the_same_are_one_group_the_most_visits_first()
    {
        var group = One(
            Way(("utm_source", "nattervine_")),
            Way(("utm_source", "NatterVines")),
            Way(("utm_source", "NatterVines"), ("utm_medium", "social"))
        );
        Assert.Equal(["NatterVines", "nattervine_"], group.Strays.Select(s => s.When["utm_source"]));
        Assert.Equal([2, 3], group.Strays[0].Sources);
        Assert.Equal(6, group.Visits);
    }

    public static TheoryData<string> Assignable =>
        [
            "ref=group?utm_source=natter_vine",
            "utm_source=nattervine",
            "utm_soruce=natter_vine",
            "utm_source=social&utm_medium=natter_vine",
            "utm_source=natter_vine?utm_medium=social",
        ];

    [Theory]
    [MemberData(nameof(Assignable))]
    public void An_assigned_stray_is_read_as_what_it_means_and_is_none_any_more(string tags)
    {
        var source = new TrafficSource(1, RawTags.Of(RawPair.Split(tags).Select(p => KeyValuePair.Create(p.Key, p.Value))), "");
        var group = One(source);
        var assigned = Plan.With(new StrayAssignments(group.Strays.Select(s => s.AsLikely(Guid.NewGuid(), group.Field))));
        Assert.Empty(Find(assigned, source));
        var read = new ReadSource(source, Convention, Plan);
        Assert.NotEqual("natter_vine", read.KeyOf(new RowField(RowKind.Source)) + read.KeyOf(new RowField(RowKind.Medium)));
        Assert.Equal("natter_vine", read.By(assigned).KeyOf(new RowField(RowKind.Source)));
        Assert.Equal(read.KeyOf(new RowField(RowKind.Source)), read.By(assigned).By(Plan).KeyOf(new RowField(RowKind.Source)));
    }

    [Fact]
    public void An_assigned_campaign_is_that_campaign()
    {
        var source = Way(("utm_campaign", "lanternnights"));
        var assigned = Plan.With(
            new StrayAssignments([
                StrayAssignment.OfValues(
                    Guid.NewGuid(),
                    new Dictionary<string, string> { ["utm_campaign"] = "lanternnights" },
                    new Dictionary<string, string> { ["utm_campaign"] = "lantern_nights" }
                ),
            ])
        );
        Assert.NotEqual(Plan.Stamp, assigned.Stamp);
        Assert.Equal("lantern_nights", new ReadSource(source, Convention, assigned).KeyOf(new RowField(RowKind.Campaign)));
    }

    [Fact]
    public void A_field_under_its_own_key_goes_before_an_assigned_key()
    {
        var source = Way(("utm_source", "the_trellis"), ("utm_soruce", "natter_vine"));
        var assigned = Plan.With(new StrayAssignments([StrayAssignment.OfKey(Guid.NewGuid(), "utm_soruce", "utm_source")]));
        Assert.Equal("the_trellis", new ReadSource(source, Convention, assigned).KeyOf(new RowField(RowKind.Source)));
    }

    [Fact]
    public void The_assignment_that_asks_for_most_wins_and_no_value_is_assigned_twice()
    {
        var one = StrayAssignment.OfValues(
            Guid.NewGuid(),
            new Dictionary<string, string> { ["utm_source"] = "vine" },
            new Dictionary<string, string> { ["utm_source"] = "the_trellis" }
        );
        var both = StrayAssignment.OfValues(
            Guid.NewGuid(),
            new Dictionary<string, string> { ["utm_source"] = "vine", ["utm_medium"] = "chat" },
            new Dictionary<string, string> { ["utm_source"] = "natter_vine", ["utm_medium"] = "social" }
        );
        var values = new Dictionary<string, string> { ["utm_source"] = "vine", ["utm_medium"] = "chat" };
        new StrayAssignments([one, both]).ApplyTo(values, RawTags.None, Convention);
        Assert.Equal(("natter_vine", "social"), (values["utm_source"], values["utm_medium"]));

        values = new Dictionary<string, string> { ["utm_source"] = "vine", ["utm_medium"] = "email" };
        new StrayAssignments([one, both]).ApplyTo(values, RawTags.None, Convention);
        Assert.Equal(("the_trellis", "email"), (values["utm_source"], values["utm_medium"]));
    }

    [Fact]
    public void What_changes_is_told_row_by_row()
    {
        var sources = new[] { Way(("utm_source", "nattervine")), Way(("utm_source", "natter_vine")) };
        var assigned = Plan.With(new StrayAssignments(Find(Plan, sources).Select(g => g.Strays[0].AsLikely(Guid.NewGuid(), g.Field))));
        var effects = StrayEffect.Of(sources.Select(s => (s, 10L * s.Id)), Convention, Plan, assigned);
        Assert.Equal(
            [("nattervine", 10, 0), ("natter_vine", 20, 30)],
            effects.Select(e => (e.Key!, e.Before, e.After)).OrderByDescending(e => e.Item1 == "nattervine")
        );
        Assert.All(effects, e => Assert.Equal(RowKind.Source, e.Field.Kind));
        Assert.Empty(StrayEffect.Of(sources.Select(s => (s, 1L)), Convention, Plan, Plan));
    }
}

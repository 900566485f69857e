using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Composing.Checks;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using static PreciseBeacon.CoreTests.Conventions.GardenConvention;

namespace PreciseBeacon.CoreTests.Composing;

public sealed class LinkPipelineTests
{
    [Fact]
    public void The_words_follow_from_page_campaign_and_placement()
    {
        var link = Compose("https://marrowmere.example/lanterns?x=1#book");
        Assert.Equal(
            "https://marrowmere.example/lanterns?x=1&utm_source=the_trellis&utm_medium=email&utm_campaign=2026-10_lantern_nights&utm_content=header#book",
            link.Tagged?.Url
        );
        Assert.Equal(
            [ValueOrigin.Placement, ValueOrigin.Placement, ValueOrigin.Campaign, ValueOrigin.Placement, ValueOrigin.None, ValueOrigin.None],
            link.Fields.Select(f => f.From)
        );
        Assert.Empty(link.Notices);
        Assert.True(link.Ready);
    }

    [Fact]
    public void What_is_typed_goes_before_what_stands_and_may_take_it_away()
    {
        var link = Compose("https://marrowmere.example/", ("Content", ""), ("utm_term", "night lights"));
        Assert.DoesNotContain("utm_content", link.Tagged!.Url, StringComparison.Ordinal);
        Assert.EndsWith("&utm_term=night_lights", link.Tagged.Url, StringComparison.Ordinal);
    }

    /// <summary>For each rule that a link can break here, one link that breaks it and its severity.</summary>
    [Theory]
    [InlineData("javascript:x", "destination-refused", Severity.Error)]
    [InlineData("marrowmere.example/x", "scheme-added", Severity.Info)]
    [InlineData(" https://marrowmere.example/x", "address-trimmed", Severity.Info)]
    [InlineData("https://marrowmere.example/x\u200By", "invisible-in-address", Severity.Warning)]
    [InlineData("https://stranger.example/x", "host-not-approved", Severity.Warning)]
    [InlineData("http://marrowmere.example/x", "http-where-https", Severity.Warning)]
    [InlineData("https://marrowmere.example/x?a=1?utm_term=2", "second-question-mark", Severity.Warning)]
    [InlineData("https://marrowmere.example/x?a=1&amp;b=2", "ampersand-entity", Severity.Warning)]
    [InlineData("https://marrowmere.example/x?utm_source=a%2520b", "encoded-twice", Severity.Warning)]
    [InlineData("https://marrowmere.example/x?utm_source=a&utm_source=b", "duplicate-key", Severity.Warning)]
    [InlineData("https://marrowmere.example/x?utm_soruce=a", "key-misspelt", Severity.Warning)]
    [InlineData("https://marrowmere.example/x?utm-source=a", "key-misspelt", Severity.Warning)]
    [InlineData("https://marrowmere.example/x?UTM_Source=a", "key-misspelt", Severity.Warning)]
    [InlineData("https://marrowmere.example/x?utm_term=", "empty-value", Severity.Warning)]
    [InlineData("https://marrowmere.example/x?utm_source=old", "tags-replaced", Severity.Info)]
    [InlineData("https://marrowmere.example/x#utm_source=old", "tags-hidden-in-fragment", Severity.Warning)]
    [InlineData("https://app.marrowmere.example/x", "tags-after-hash", Severity.Info)]
    public void Addresses_are_judged(string destination, string rule, Severity severity) =>
        Assert.Contains(Compose(destination).Notices, n => n.Rule == rule && n.Severity == severity);

    [Theory]
    [InlineData("Medium", "fax machine", "word-unknown", Severity.Error)]
    [InlineData("Source", "the gazette", "word-new", Severity.Warning)]
    [InlineData("Source", "trellis", "alias-used", Severity.Info)]
    [InlineData("Source", "fernpost", "word-retired", Severity.Error)]
    [InlineData("Source", "", "missing-required", Severity.Error)]
    [InlineData("Content", "Big", "case-changed", Severity.Info)]
    [InlineData("Content", "big poster", "space-changed", Severity.Info)]
    [InlineData("Content", "b\u200Big", "characters-changed", Severity.Info)]
    [InlineData("Content", "orla@marrowmere.example", "personal-data", Severity.Error)]
    [InlineData("Content", "1234567890", "long-number", Severity.Warning)]
    [InlineData("Content", "[ad]", "placeholder-foreign", Severity.Warning)]
    [InlineData("Content", "%%ad%%", "placeholder-unreadable", Severity.Warning)]
    [InlineData("Colour", "green", "field-unknown", Severity.Error)]
    public void Values_are_judged(string field, string value, string rule, Severity severity) =>
        Assert.Contains(Compose("https://marrowmere.example/", (field, value)).Notices, n => n.Rule == rule && n.Severity == severity);

    [Fact]
    public void A_long_number_in_a_field_made_for_numbers_is_nobodys() =>
        Assert.Empty(Compose("https://marrowmere.example/", ("Id", "1234567890")).Notices);

    [Fact]
    public void Swapped_source_and_medium_are_noticed()
    {
        var fields = new Dictionary<string, string> { ["Source"] = "email", ["Medium"] = "the_trellis" };
        var link = LinkPipeline.Run(Garden, new LinkRequest("https://marrowmere.example/", fields, Lanterns), Facts);
        Assert.Contains(link.Notices, n => n.Rule == NoticeRules.SourceMediumSwapped.Name);
    }

    [Fact]
    public void A_campaign_that_has_ended_is_noticed()
    {
        var request = new LinkRequest(
            "https://marrowmere.example/",
            new Dictionary<string, string>(),
            Lanterns with
            {
                Ends = Today.AddDays(-1),
            },
            Trellis
        );
        Assert.Equal(NoticeRules.OutsideCampaignDates.Name, Assert.Single(LinkPipeline.Run(Garden, request, Facts).Notices).Rule);
    }

    [Fact]
    public void A_link_without_any_tag_is_noticed()
    {
        var bare = new Convention(1, [new Field { Key = "a", Label = "A" }], new LinkSettings());
        var link = LinkPipeline.Run(bare, new LinkRequest("https://marrowmere.example/", new Dictionary<string, string>()), Facts);
        Assert.Equal(NoticeRules.NoTags.Name, Assert.Single(link.Notices).Rule);
    }

    [Fact]
    public void Kept_tags_are_taken_from_the_address()
    {
        var request = new LinkRequest(
            "https://marrowmere.example/?utm_source=nattervine",
            new Dictionary<string, string>(),
            Lanterns,
            Trellis,
            Existing: ExistingTags.Keep
        );
        var link = LinkPipeline.Run(Garden, request, Facts);
        Assert.Equal(("nattervine", ValueOrigin.Address), (link.Fields[0].Value, link.Fields[0].From));
        Assert.StartsWith("https://marrowmere.example/?utm_source=nattervine&utm_medium=email", link.Tagged?.Url, StringComparison.Ordinal);
    }

    [Fact]
    public void Half_a_character_stops_the_link_but_still_shows_it()
    {
        var link = Compose("https://marrowmere.example/", ("Content", "x" + '\uD83D'));
        Assert.False(link.Ready);
        Assert.Contains("utm_content=x%EF%BF%BD", link.Tagged!.Url, StringComparison.Ordinal);
    }

    [Fact]
    public void Links_that_could_not_be_told_apart_are_noticed()
    {
        var one = Compose("https://marrowmere.example/");
        var other = Compose("https://marrowmere.example/", ("Content", "footer"));
        var judged = TwinCheck.Run([one, other, one], new Dictionary<string, string> { [other.Tagged!.Url] = "Last year’s" });
        Assert.Equal([NoticeRules.SameAsOther.Name], judged[0].Notices.Select(n => n.Rule));
        Assert.Equal([NoticeRules.SameAsExisting.Name], judged[1].Notices.Select(n => n.Rule));
        Assert.Equal([NoticeRules.SameAsOther.Name], judged[2].Notices.Select(n => n.Rule));
    }

    [Fact]
    public void Two_fields_cannot_share_a_key() =>
        Assert.Throws<ArgumentException>(() =>
            new Convention(1, [new Field { Key = "a", Label = "A" }, new Field { Key = "A", Label = "B" }], new LinkSettings())
        );
}

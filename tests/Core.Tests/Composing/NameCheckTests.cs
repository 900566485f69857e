using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Starting;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.CoreTests.Conventions;
using static PreciseBeacon.CoreTests.Conventions.GardenConvention;

namespace PreciseBeacon.CoreTests.Composing;

/// <summary>A composed field: put together, written by hand, taken over from an old link.</summary>
public sealed class NameCheckTests
{
    private static readonly Convention ByRegion = StartingConventions.ByRegionAndChannel.Document.ToConvention(1, new LinkSettings());

    private static ComposedLink Make(params (string Key, string Value)[] fields) =>
        LinkPipeline.Run(
            ByRegion,
            new LinkRequest(
                "https://marrowmere.example/",
                fields.ToDictionary(f => f.Key, f => f.Value),
                Lanterns,
                new PlacementChoice("The Trellis", Trellis.Defaults, Channel: "Newsletter and mail")
            ),
            Facts
        );

    private static Notice? Unfit(ComposedLink link) => link.Notices.FirstOrDefault(n => n.Rule == NoticeRules.NameDoesNotFit.Name);

    [Theory]
    [InlineData("", "all_newsletter-and-mail_lantern-nights")] // the filler stands for everybody
    [InlineData("north", "north_newsletter-and-mail_lantern-nights")]
    public void It_is_put_together_from_what_was_chosen(string region, string name)
    {
        var campaign = Make(("Region", region)).Fields[2];
        Assert.Equal((name, ValueOrigin.Composed), (campaign.Value, campaign.From));
    }

    [Theory]
    [InlineData("all_newsletter-and-mail_lantern-nights", null)]
    [InlineData("lanterns", "doesn't match the pattern region_channel_campaign")]
    [InlineData("south_newsletter-and-mail_lantern-nights", "says “south” where Region is “north”")]
    [InlineData("north_banners_lantern-nights", "says “banners” where the channel is “newsletter-and-mail”")]
    [InlineData("north_newsletter-and-mail_winter", "says “winter” where the campaign is “lantern-nights”")]
    public void Written_by_hand_it_is_compared_part_by_part(string typed, string? says)
    {
        var notice = Unfit(Make(("Region", typed.StartsWith("all", StringComparison.Ordinal) ? "" : "north"), ("Campaign", typed)));
        if (says is null)
        {
            Assert.Null(notice);
            return;
        }

        Assert.Contains(says, notice!.Message, StringComparison.Ordinal);
        Assert.Equal(
            new Repair("utm_campaign", "north_newsletter-and-mail_lantern-nights", "Use north_newsletter-and-mail_lantern-nights"),
            notice.Repair
        );
    }

    [Fact]
    public void Without_a_part_that_must_be_there_it_stops_and_names_the_part()
    {
        var link = LinkPipeline.Run(
            ByRegion,
            new LinkRequest(
                "https://marrowmere.example/",
                new Dictionary<string, string>(),
                null,
                new PlacementChoice("The Trellis", Trellis.Defaults)
            ),
            Facts
        );
        var missing = link.Notices.Single(n => n.Rule == NoticeRules.PartMissing.Name);
        Assert.Equal((Severity.Error, "utm_campaign"), (missing.Severity, missing.Field));
        Assert.Contains("without the campaign", missing.Message, StringComparison.Ordinal);
        Assert.DoesNotContain(link.Notices, n => n.Rule == NoticeRules.MissingRequired.Name && n.Field == "utm_campaign");
        Assert.False(link.Ready);

        // Typed whole, it may stand without a campaign.
        var typed = LinkPipeline.Run(
            ByRegion,
            new LinkRequest(
                "https://marrowmere.example/",
                new Dictionary<string, string> { ["Campaign"] = "all_newsletter-and-mail_spring" },
                null,
                new PlacementChoice("The Trellis", Trellis.Defaults)
            ),
            Facts
        );
        Assert.True(typed.Ready);
        Assert.Null(Unfit(typed));
    }

    [Theory]
    [InlineData("2026-09-30", true)]
    [InlineData("2026-10-01", false)]
    [InlineData("2026-12-20", false)]
    [InlineData("2026-12-21", true)]
    public void A_date_is_outside_its_campaign_from_the_first_day_that_is(string date, bool outside)
    {
        var link = LinkPipeline.Run(
            SampleFiles.Garden,
            new LinkRequest(
                "https://marrowmere.example/",
                new Dictionary<string, string> { ["First day"] = date },
                Lanterns,
                SampleFiles.Placements["The Trellis"]
            ),
            Facts
        );
        Assert.Equal(outside, link.Notices.Any(n => n.Rule == NoticeRules.OutsideCampaignDates.Name && n.Field == "utm_starts"));
    }

    [Fact]
    public void A_written_month_counts_as_outside_only_when_all_of_it_is()
    {
        // The campaign runs from 1 October to 20 December: December lies inside in part, January not at all.
        Assert.DoesNotContain(Named("2026-12_all_lantern-nights"), n => n.Rule == NoticeRules.OutsideCampaignDates.Name);
        Assert.Contains(Named("2027-01_all_lantern-nights"), n => n.Rule == NoticeRules.OutsideCampaignDates.Name);

        static IReadOnlyList<Notice> Named(string name) =>
            LinkPipeline
                .Run(
                    SampleFiles.Garden,
                    new LinkRequest(
                        "https://marrowmere.example/",
                        new Dictionary<string, string> { ["Campaign"] = name },
                        Lanterns,
                        SampleFiles.Placements["The Trellis"]
                    ),
                    Facts
                )
                .Notices;
    }
}

using PreciseBeacon.Core.Imports;

namespace PreciseBeacon.CoreTests.Imports;

public sealed class TargetMatcherTests
{
    private static readonly Guid Link = new("11111111-0000-0000-0000-000000000000");
    private static readonly Guid Other = new("22222222-0000-0000-0000-000000000000");
    private static readonly Guid Bulbs = new("33333333-0000-0000-0000-000000000000");
    private static readonly Guid Poster = new("44444444-0000-0000-0000-000000000000");
    private static readonly Dictionary<string, string> Social = new() { ["utm_medium"] = "social" };

    private static TargetMatcher Matcher(params (TargetPart Part, string Text, Guid? Id)[] corrections) =>
        new(
            new TargetNames(
                new Dictionary<string, IReadOnlyList<Guid>> { ["mmr.example/bulbs"] = [Link], ["Header"] = [Link, Other] },
                [(Bulbs, "Bulb Sale", "bulb_sale")],
                [(Poster, "Gate poster")]
            ),
            corrections.ToDictionary(c => (c.Part, c.Text), c => new TargetCorrection(c.Id))
        );

    private static NamedTarget Named(string link = "", string campaign = "", string placement = "") =>
        new(link, campaign, placement, Social);

    [Fact]
    public void A_link_says_all_the_rest_by_itself()
    {
        var target = Matcher().Match(Named("mmr.example/bulbs", "no such campaign")).Target!;
        Assert.Equal((Link, null, 0), (target.LinkId, target.CampaignId, target.Values.Count));
    }

    [Theory]
    [InlineData("Bulb Sale")]
    [InlineData("bulb sale")]
    [InlineData("BULB_SALE")]
    public void Campaign_placement_and_values_narrow_it_down_together(string campaign)
    {
        var target = Matcher().Match(Named(campaign: campaign, placement: "gate POSTER")).Target!;
        Assert.Equal((null, Bulbs, Poster, "social"), (target.LinkId, target.CampaignId, target.PlacementId, target.Values["utm_medium"]));
    }

    [Fact]
    public void What_is_not_known_says_which_part_it_is()
    {
        Assert.Equal(new MatchedTarget(null, ImportProblem.LinkUnknown, TargetPart.Link, "x"), Matcher().Match(Named("x")));
        Assert.Equal(new MatchedTarget(null, ImportProblem.LinkAmbiguous, TargetPart.Link, "Header"), Matcher().Match(Named("Header")));
        Assert.Equal(
            new MatchedTarget(null, ImportProblem.CampaignUnknown, TargetPart.Campaign, "Bulb Sael"),
            Matcher().Match(Named(campaign: "Bulb Sael"))
        );
        Assert.Equal(
            new MatchedTarget(null, ImportProblem.PlacementUnknown, TargetPart.Placement, "Gate"),
            Matcher().Match(Named(campaign: "Bulb Sale", placement: "Gate"))
        );
        Assert.Equal((Bulbs, "Bulb Sale"), Matcher().Likely(TargetPart.Campaign, "Bulb Sael"));
        Assert.Null(Matcher().Likely(TargetPart.Placement, "Shop window"));
        Assert.Null(Matcher().Likely(TargetPart.Link, "mmr.example/bulb"));
    }

    [Fact]
    public void What_was_put_right_by_hand_goes_before_what_is_found()
    {
        var matcher = Matcher(
            (TargetPart.Campaign, "Bulb Sael", Bulbs),
            (TargetPart.Link, "Header", Other),
            (TargetPart.Placement, "Gate", null),
            (TargetPart.Campaign, "Gone", Guid.NewGuid())
        );
        Assert.Equal(Bulbs, matcher.Match(Named(campaign: "Bulb Sael")).Target!.CampaignId);
        Assert.Equal(Other, matcher.Match(Named("Header")).Target!.LinkId);
        Assert.Equal(new MatchedTarget(null), matcher.Match(Named(placement: "Gate"))); // left out: nothing it means, nothing wrong
        Assert.Equal(ImportProblem.CampaignUnknown, matcher.Match(Named(campaign: "Gone")).Problem); // what it meant is no more
    }
}

using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Starting;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.CoreTests.Conventions;

namespace PreciseBeacon.CoreTests.Composing;

public sealed class CampaignWordsTests
{
    private static readonly Convention Plain = StartingConventions.All[0].Document.ToConvention(1, new LinkSettings());

    private static readonly CampaignChoice[] Campaigns =
    [
        new("Orchid Week", "2027-02_orchid_week"),
        new("Bulb Sale", "2026-09_bulb_sale"),
        new("Seed Swap", "seed_swap"),
    ];

    private static ComposedLink Compose(Convention convention, string typed, CampaignChoice? chosen = null)
    {
        var facts = GardenConvention.Facts with
        {
            Campaigns = CampaignWords.Of(convention, convention == Plain ? Campaigns : SampleFiles.Campaigns.Values),
        };
        var fields = typed.Length == 0 ? new Dictionary<string, string>() : new Dictionary<string, string> { ["utm_campaign"] = typed };
        return LinkPipeline.Run(convention, new LinkRequest("https://marrowmere.example/", fields, chosen), facts);
    }

    [Theory]
    [InlineData("2027-02_orchid_week", "2027-02_orchid_week", null)]
    [InlineData("2027-02_orchid_weak", "2027-02_orchid_weak", "campaign-near")]
    [InlineData("2027-02-orchid-week", "2027-02-orchid-week", "campaign-near")]
    [InlineData("Bulb Sale", "2026-09_bulb_sale", "alias-used")]
    [InlineData("bulb_sale", "2026-09_bulb_sale", "alias-used")]
    [InlineData("seed_swap", "seed_swap", null)]
    [InlineData("something_else", "something_else", null)]
    public void A_typed_campaign_is_known_by_value_and_name(string typed, string written, string? rule)
    {
        var link = Compose(Plain, typed);
        Assert.Equal(written, link.Fields.Single(f => f.Key == "utm_campaign").Value);
        Assert.Equal(rule is null ? [] : [rule], link.Notices.Select(n => n.Rule).Where(r => r is "campaign-near" or "alias-used"));
        if (link.Notices.FirstOrDefault(n => n.Rule == "campaign-near") is { } near)
        {
            Assert.Equal((Severity.Warning, "2027-02_orchid_week"), (near.Severity, near.Repair!.Value));
        }
    }

    /// <summary>In a composed name it is the campaign's own part that is near.</summary>
    [Theory]
    [InlineData("2026-10_all_lantern-nights", null)]
    [InlineData("2026-10_all_lantern-nigths", "2026-10_all_lantern-nights")]
    [InlineData("2026-10_north_lantern-nigth", "2026-10_north_lantern-nights")]
    [InlineData("2026-10_all_something-else", null)]
    public void In_a_composed_name_the_campaigns_part_is_looked_up(string typed, string? mended) =>
        Assert.Equal(mended, Compose(SampleFiles.Garden, typed).Notices.FirstOrDefault(n => n.Rule == "campaign-near")?.Repair?.Value);

    [Theory]
    [InlineData("2026-10_all_lantern-nights", "Lantern Nights")]
    [InlineData("2026-10_all_lantern-nigths", null)]
    public void A_value_belongs_to_its_campaign(string typed, string? campaign) =>
        Assert.Equal(
            campaign,
            CampaignWords.Of(SampleFiles.Garden, SampleFiles.Campaigns.Values)!.CampaignOf(Compose(SampleFiles.Garden, typed).Fields)?.Name
        );

    [Fact]
    public void The_campaign_chosen_is_never_called_a_slip() =>
        Assert.DoesNotContain(Compose(Plain, "", new CampaignChoice("Orchid Weeks", "2027-02_orchid_weeks")).Notices, n =>
            n.Rule == "campaign-near"
        );
}

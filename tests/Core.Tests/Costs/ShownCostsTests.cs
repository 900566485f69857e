using PreciseBeacon.Core.Costs;
using PreciseBeacon.Core.Imports;

namespace PreciseBeacon.CoreTests.Costs;

/// <summary>What is paid for each thousand times shown (rules, section 7; reports, section 3).</summary>
public sealed class ShownCostsTests
{
    private static readonly DateOnly Day = new(2026, 11, 3);
    private static readonly Guid Campaign = Id(1);
    private static readonly Guid Banner = Id(2);
    private static readonly Guid Elsewhere = Id(3);

    private static readonly CoverableLink One = new(Id(11), Campaign, Banner, None);
    private static readonly CoverableLink Two = new(Id(12), Campaign, Banner, None);
    private static readonly CoverableLink Three = new(Id(13), Campaign, Elsewhere, None);

    private const int OfOne = 1;
    private const int OfBanner = 2;
    private const int OfCampaign = 3;
    private const int OfEmpty = 4;
    private const int OfEmptyInCampaign = 5;

    private static readonly Guid Empty = Id(4);

    private static readonly Dictionary<int, ImportTarget> Targets = new()
    {
        [OfOne] = new(One.Id, null, null, None),
        [OfBanner] = new(null, null, Banner, None),
        [OfCampaign] = new(null, Campaign, null, None),
        [OfEmpty] = new(null, null, Empty, None),
        [OfEmptyInCampaign] = new(null, Id(9), Empty, None),
    };

    private static Dictionary<string, string> None => [];

    private static Guid Id(int number) => new(number, 0, 0, new byte[8]);

    private static CostRate[] Per(decimal amount, DateOnly? from = null) => [new(from, CostBasis.Shown, amount)];

    private static ImportedAmounts Amounts(params (int Target, decimal Amount)[] some) =>
        new(Targets, [.. some.Select(a => new ImportedAmount(a.Target, Day, a.Amount))], [One, Two, Three]);

    private static List<(int, decimal)> Of(
        ImportedAmounts shown,
        Dictionary<Guid, CostRate[]> rates,
        params (int Target, decimal Amount)[] imported
    ) =>
        [
            .. ShownCosts
                .Of(shown, Amounts(imported), id => rates.GetValueOrDefault(id) ?? [], id => rates.GetValueOrDefault(id) ?? [])
                .Select(c => (c.Target, c.Amount)),
        ];

    [Fact]
    public void A_thousand_cost_the_rate_of_the_placement()
    {
        Assert.Equal([(OfBanner, 6.25m)], Of(Amounts((OfBanner, 2_500)), new() { [Banner] = Per(2.5m) }));
        Assert.Equal([(OfEmpty, 0.0025m)], Of(Amounts((OfEmpty, 1)), new() { [Empty] = Per(2.5m) })); // not rounded; no link needed
        Assert.Empty(Of(Amounts((OfBanner, 2_500)), new() { [Elsewhere] = Per(2.5m) }));
        Assert.Empty(Of(Amounts((OfBanner, 2_500)), new() { [Banner] = [new(null, CostBasis.Click, 2.5m)] }));
    }

    [Fact]
    public void Only_from_the_day_the_rate_holds()
    {
        Assert.Empty(Of(Amounts((OfBanner, 1_000)), new() { [Banner] = Per(2, Day.AddDays(1)) }));
        Assert.Equal([(OfBanner, 2m)], Of(Amounts((OfBanner, 1_000)), new() { [Banner] = Per(2, Day) }));
    }

    [Fact]
    public void A_link_has_its_own_rate() =>
        Assert.Equal([(OfOne, 9m)], Of(Amounts((OfOne, 3_000)), new() { [Banner] = Per(2), [One.Id] = Per(3) }));

    [Fact]
    public void Of_a_figure_about_a_campaign_all_links_must_cost_the_same()
    {
        Assert.Empty(Of(Amounts((OfCampaign, 1_000)), new() { [Banner] = Per(2) }));
        Assert.Empty(Of(Amounts((OfCampaign, 1_000)), new() { [Banner] = Per(2), [Elsewhere] = Per(3) }));
        Assert.Equal([(OfCampaign, 2m)], Of(Amounts((OfCampaign, 1_000)), new() { [Banner] = Per(2), [Elsewhere] = Per(2, Day) }));
    }

    /// <summary>Shown 3,000 times in all, 1,000 of these by one link: nothing is paid twice.</summary>
    [Fact]
    public void A_finer_figure_is_a_part_of_the_coarser_one() =>
        Assert.Equal([(OfOne, 2m), (OfBanner, 4m)], Of(Amounts((OfBanner, 3_000), (OfOne, 1_000)), new() { [Banner] = Per(2) }).Order());

    [Fact]
    public void Imported_costs_go_before_rates()
    {
        var rates = new Dictionary<Guid, CostRate[]> { [Banner] = Per(2), [Empty] = Per(2) };
        Assert.Empty(Of(Amounts((OfOne, 1_000)), rates, (OfOne, 1)));
        Assert.Empty(Of(Amounts((OfBanner, 9_000)), rates, (OfCampaign, 1))); // the campaign has all links of the placement
        Assert.Empty(Of(Amounts((OfEmpty, 9_000)), rates, (OfEmpty, 1)));
        Assert.Empty(Of(Amounts((OfEmptyInCampaign, 9_000)), rates, (OfEmpty, 1)));

        // One of its links has an imported cost: that is a part of what all of them cost.
        Assert.Equal([(OfBanner, 17m)], Of(Amounts((OfBanner, 9_000)), rates, (OfOne, 1)));
        Assert.Equal([(OfEmpty, 17m)], Of(Amounts((OfEmpty, 9_000)), rates, (OfEmptyInCampaign, 1)));
        Assert.Empty(Of(Amounts((OfBanner, 9_000)), rates, (OfOne, 18)));

        // How often the link was shown is known by itself: its imported cost stands for that alone.
        Assert.Equal([(OfBanner, 16m)], Of(Amounts((OfBanner, 9_000), (OfOne, 1_000)), rates, (OfOne, 7)));
    }
}

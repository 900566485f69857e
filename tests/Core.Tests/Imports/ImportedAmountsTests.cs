using PreciseBeacon.Core.Imports;

namespace PreciseBeacon.CoreTests.Imports;

/// <summary>Which links imported costs replace the rates of, and what of a coarser one is left beside finer ones.</summary>
public sealed class ImportedAmountsTests
{
    private static readonly DateOnly Day = new(2026, 11, 3);
    private static readonly Guid Campaign = Id(1);
    private static readonly Guid Placement = Id(2);

    private static readonly CoverableLink One = Link(11, Campaign, Placement, "wendfar");
    private static readonly CoverableLink Two = Link(12, Campaign, Id(3), "wendfar");
    private static readonly CoverableLink Elsewhere = Link(13, Id(4), Placement, "hobnet");

    private static readonly Dictionary<int, ImportTarget> Targets = new()
    {
        [1] = new ImportTarget(One.Id, null, null, None),
        [2] = new ImportTarget(null, Campaign, null, None),
        [3] = new ImportTarget(null, Campaign, Placement, None),
        [4] = new ImportTarget(null, null, null, new Dictionary<string, string> { ["utm_source"] = "wendfar" }),
        [5] = new ImportTarget(null, Id(9), null, None), // no link has it
    };

    private static Dictionary<string, string> None => [];

    private static Guid Id(int number) => new(number, 0, 0, new byte[8]);

    private static CoverableLink Link(int id, Guid campaign, Guid placement, string source) =>
        new(Id(id), campaign, placement, new Dictionary<string, string> { ["utm_source"] = source });

    private static ImportedAmounts Of(params (int Target, int Day, decimal Amount)[] costs) =>
        new(Targets, [.. costs.Select(c => new ImportedAmount(c.Target, Day.AddDays(c.Day), c.Amount))], [One, Two, Elsewhere]);

    private static List<(int, decimal)> RestsOf(ImportedAmounts costs) => [.. costs.Rests().Select(r => (r.Target, r.Amount)).Order()];

    [Fact]
    public void An_import_covers_the_links_of_its_target_on_its_days()
    {
        var costs = Of((2, 0, 10), (4, 1, 10));
        Assert.True(costs.Covers(One.Id, Day) && costs.Covers(Two.Id, Day) && costs.Covers(Two.Id, Day.AddDays(1)));
        Assert.False(costs.Covers(Elsewhere.Id, Day) || costs.Covers(One.Id, Day.AddDays(2)));
        Assert.Equal([Day, Day.AddDays(1)], costs.DaysOf(One.Id).Order());
        Assert.Equal((Day, Day.AddDays(1)), costs.Span);
    }

    [Fact]
    public void A_finer_import_is_a_part_of_the_coarser_one_and_nothing_is_paid_twice()
    {
        Assert.Equal([(1, 30), (2, 70)], RestsOf(Of((1, 0, 30), (2, 0, 100))));
        Assert.Equal([(1, 30), (2, 60), (3, 10)], RestsOf(Of((1, 0, 30), (3, 0, 40), (2, 0, 100))));
        Assert.Equal([(1, 130)], RestsOf(Of((1, 0, 130), (2, 0, 100)))); // the finer says more than the whole
        Assert.Equal([(1, 30), (2, 100)], RestsOf(Of((1, 0, 30), (2, 1, 100)))); // other days
    }

    [Fact]
    public void What_covers_no_link_stands_for_itself()
    {
        var costs = Of((5, 0, 8));
        Assert.Empty(costs.LinksOf(5));
        Assert.Equal([(5, 8)], RestsOf(costs));
    }

    /// <summary>However imports lie within one another, their rests add up to no less than each and no more than all.</summary>
    [Fact]
    public void Rests_add_up()
    {
        var random = new Random(20);
        for (int i = 0; i < 500; i++)
        {
            var costs = Enumerable.Range(1, 5).Where(_ => random.Next(2) == 0).Select(t => (t, 0, (decimal)random.Next(1, 100))).ToArray();
            var nested = costs.Where(c => c.t is 1 or 2 or 3).ToArray();
            decimal sum = Of(costs).Rests().Sum(r => r.Amount);
            Assert.InRange(sum, costs.Length == 0 ? 0 : costs.Max(c => c.Item3), costs.Sum(c => c.Item3));
            Assert.True(nested.Length == 0 || Of(nested).Rests().Sum(r => r.Amount) >= nested.Max(c => c.Item3));
        }
    }

    [Fact]
    public void The_same_target_has_the_same_key()
    {
        var one = new ImportTarget(null, Campaign, null, new Dictionary<string, string> { ["a"] = "1", ["b"] = "2" });
        var other = new ImportTarget(null, Campaign, null, new Dictionary<string, string> { ["b"] = "2", ["a"] = "1" });
        Assert.Equal(one.Key, other.Key);
        Assert.NotEqual(one.Key, (one with { CampaignId = null, PlacementId = Campaign }).Key);
    }
}

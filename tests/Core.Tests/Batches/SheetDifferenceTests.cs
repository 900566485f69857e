using PreciseBeacon.Core.Batches;

namespace PreciseBeacon.CoreTests.Batches;

public sealed class SheetDifferenceTests
{
    private static Table Of(string text) => TableText.Read(text.Replace("\n", "\r\n", StringComparison.Ordinal), ',');

    [Fact]
    public void Rows_are_recognised_by_the_first_column_that_names_each_once()
    {
        var difference = SheetDifference.Between(Of("Group,Id,Bid\nx,1,5\nx,2,6\ny,3,7\n"), Of("Id,Group,Bid\n3,y,7\n2,x,9\n4,y,1\n"), []);
        Assert.Equal("Id", difference.Key);
        Assert.Equal([(3, 1, ""), (2, 2, "Bid")], difference.Pairs.Select(p => (p.Before, p.After, string.Join(',', p.Columns))));
        Assert.Equal([3], difference.Added);
        Assert.Equal([1], difference.Gone);
    }

    [Fact]
    public void Without_such_a_column_equal_rows_are_paired_one_to_one()
    {
        var difference = SheetDifference.Between(Of("A,Link\nx,1\nx,2\ny,3\n"), Of("A,Link\nx,9\nz,3\n"), ["Link"]);
        Assert.Null(difference.Key);
        Assert.Equal([(1, 1)], difference.Pairs.Select(p => (p.Before, p.After)));
        Assert.Equal([2], difference.Added);
        Assert.Equal([2, 3], difference.Gone);
    }

    [Fact]
    public void A_sheet_beside_itself_has_no_difference()
    {
        var sheet = Of("A,B\n1,x\n2,\n");
        var difference = SheetDifference.Between(sheet, sheet, []);
        Assert.True(
            difference is { Added.Count: 0, Gone.Count: 0 } && difference.Pairs.All(p => p.Columns.Count == 0 && p.Before == p.After)
        );
    }
}

using PreciseBeacon.Core.Batches;

namespace PreciseBeacon.CoreTests.Batches;

/// <summary>Exports begin with lines of what they are about; the headings come after them.</summary>
public sealed class HeadingRowTests
{
    [Theory]
    [InlineData("Name,Page|Fern,https://a.example/|Moss,https://b.example/", 1)]
    [InlineData("Ads of November,,|Name,Page,Cost|Fern,https://a.example/,1", 2)]
    [InlineData("Ads|1 Nov to 30 Nov||Name,Page,Cost|Fern,https://a.example/,1", 4)]
    [InlineData("Report,Ads,,,|Campaign,Group,Name,Page,Cost|Lantern,Ferns,Fern,https://a.example/,1", 2)]
    [InlineData("Name,Page,,,|Fern,https://a.example/,,,|Moss,https://b.example/,1,2,", 1)] // some columns have no name
    [InlineData("Name,Name,Page|Fern,Moss,https://a.example/", 1)] // a double heading in the first row stays one
    [InlineData("Only|one|column", 1)]
    [InlineData("", 1)]
    public void The_row_of_headings_is_found(string sheet, int row) =>
        Assert.Equal(row, HeadingRow.Of([.. sheet.Split('|').Select(line => (IReadOnlyList<string>)line.Split(','))]));

    [Fact]
    public void A_sheet_without_rows_has_its_headings_in_the_first() => Assert.Equal(1, HeadingRow.Of([]));
}

using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.CoreTests.Reports;

public sealed class TownRowsTests
{
    [Theory]
    [InlineData("country,region,town", "", "IE|Upper|Ford;IE|Lower|Ford;IE||Mill", "IE/Upper/Ford IE/Lower/Ford IE//Mill")]
    [InlineData("region,town", "country:is:IE", "Upper|Ford;Upper|", "IE/Upper/Ford")]
    [InlineData("town,source", "country:is:IE region:is:", "Ford|a;Ford|b", "IE//Ford IE//Ford")]
    [InlineData("town", "country:is:IE region:is:Upper", "Ford", "IE/Upper/Ford")]
    [InlineData("town", "country:is:IE", "Ford", "")] // regions may have towns of the same name
    [InlineData("region,town", "country:not:IE", "Upper|Ford", "")]
    [InlineData("country,region,town", "", "IE|Upper|Ford;FR|Upper|Ford", "")]
    [InlineData("country,region", "", "IE|Upper", "")]
    public void A_town_is_known_where_its_row_says_all_of_it(string fields, string where, string rows, string towns) =>
        Assert.Equal(
            towns,
            string.Join(
                ' ',
                TownRows
                    .Of(
                        [.. fields.Split(',').Select(f => RowField.Parse(f)!)],
                        [.. where.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(w => RowCondition.Parse(w)!)],
                        rows.Split(';').Select(r => (IReadOnlyList<string?>)[.. r.Split('|').Select(k => k.Length == 0 ? null : k)])
                    )
                    .Select(t => $"{t.Town.Country}/{t.Town.Region}/{t.Town.City}")
            )
        );
}

using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.CoreTests.Reports;

/// <summary>Spans that move with the day, by the table the interface is tested by too.</summary>
public sealed class ReportSpanTests
{
    public static TheoryData<string, string, string?, string?> Cases()
    {
        var data = new TheoryData<string, string, string?, string?>();
        foreach (var row in SharedTable.Read("spans.json").EnumerateArray())
        {
            data.Add(
                row.GetProperty("code").GetString()!,
                row.GetProperty("today").GetString()!,
                row.GetProperty("from").GetString(),
                row.GetProperty("to").GetString()
            );
        }

        return data;
    }

    [Theory]
    [MemberData(nameof(Cases))]
    public void A_span_moves_with_the_day(string code, string today, string? from, string? to)
    {
        var span = ReportSpan.Of(code, DateOnly.Parse(today, System.Globalization.CultureInfo.InvariantCulture));
        Assert.Equal((from, to), (span?.From.ToString("yyyy-MM-dd", null), span?.To.ToString("yyyy-MM-dd", null)));
    }

    [Fact]
    public void Every_code_offered_is_a_span() =>
        Assert.All(ReportSpan.Codes, code => Assert.NotNull(ReportSpan.Of(code, new DateOnly(2026, 11, 30))));
}

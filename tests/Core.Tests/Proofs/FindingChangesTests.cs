using PreciseBeacon.Core.Proofs;

namespace PreciseBeacon.CoreTests.Proofs;

/// <summary>A finding is new for a week, worse from half as much again, and gone when it is found no longer.</summary>
public sealed class FindingChangesTests
{
    private static readonly DateTimeOffset Now = new(2026, 11, 29, 12, 0, 0, TimeSpan.Zero);

    [Theory]
    [InlineData(0, false, 20, 20, FindingChange.New)]
    [InlineData(6.9, false, 20, 29, FindingChange.New)]
    [InlineData(7, false, 20, 29, FindingChange.Known)]
    [InlineData(1, false, 20, 30, FindingChange.Worse)]
    [InlineData(90, false, 20, 30, FindingChange.Worse)]
    [InlineData(90, false, 2, 11, FindingChange.Known)] // so few say nothing
    [InlineData(90, false, 2, 12, FindingChange.Worse)]
    [InlineData(90, false, 100, 149, FindingChange.Known)]
    [InlineData(1, true, 20, 30, FindingChange.Gone)]
    public void What_became_of_a_finding(double days, bool gone, long then, long weight, FindingChange due) =>
        Assert.Equal(due, FindingChanges.Of(Now.AddDays(-days), gone, then, weight, Now));
}

using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.ShortLinks;

namespace PreciseBeacon.CoreTests.ShortLinks;

public sealed class RouteConditionsTests
{
    private static readonly DateTimeOffset Noon = new(2026, 12, 24, 12, 0, 0, TimeSpan.Zero);

    [Theory]
    [InlineData(false, null, null, RouteOutcome.Redirects, "target")]
    [InlineData(true, null, null, RouteOutcome.Paused, null)]
    [InlineData(false, 1, null, RouteOutcome.Redirects, "target")]
    [InlineData(false, 0, null, RouteOutcome.Ended, null)]
    [InlineData(false, -1, null, RouteOutcome.Ended, null)]
    [InlineData(false, 0, "fallback", RouteOutcome.Redirects, "fallback")]
    [InlineData(true, 1, "fallback", RouteOutcome.Paused, null)]
    [InlineData(true, -1, "fallback", RouteOutcome.Redirects, "fallback")]
    public void An_end_goes_before_a_pause(bool paused, int? endsInSeconds, string? fallback, RouteOutcome outcome, string? address) =>
        Assert.Equal(
            (outcome, address),
            new RouteConditions(paused, endsInSeconds is { } s ? Noon.AddSeconds(s) : null, fallback).At("target", Noon)
        );

    [Fact]
    public void A_link_that_simply_redirects_has_none()
    {
        Assert.Null(RouteConditions.Of(false, null, "unused without an end"));
        Assert.NotNull(RouteConditions.Of(true, null, null));
        Assert.NotNull(RouteConditions.Of(false, Noon, null));
    }

    /// <summary>Dublin keeps summer time from the last Sunday of March to that of October (tz database).</summary>
    [Theory]
    [InlineData("2026-12-24T18:00", "2026-12-24T18:00:00Z")]
    [InlineData("2026-07-01 09:30", "2026-07-01T08:30:00Z")]
    [InlineData("2026-07-01", "2026-06-30T23:00:00Z")]
    [InlineData("2026-10-25T01:30", "2026-10-25T00:30:00Z")] // comes twice
    [InlineData("2026-03-29T01:30", "2026-03-29T01:30:00Z")] // never comes
    [InlineData("2026-12-24T18:00:00+02:00", "2026-12-24T16:00:00Z")]
    [InlineData("2026-12-24T18:00Z", "2026-12-24T18:00:00Z")]
    public void Moments_are_read_where_the_workspace_is(string text, string wanted) =>
        Assert.Equal(
            DateTimeOffset.Parse(wanted, System.Globalization.CultureInfo.InvariantCulture),
            WorkspaceMoment.Read(text, "Europe/Dublin")
        );

    [Theory]
    [InlineData("")]
    [InlineData("tomorrow")]
    [InlineData("24.12.2026 18:00")]
    [InlineData("2026-02-30T10:00")]
    public void What_is_no_moment_is_none(string text) => Assert.Null(WorkspaceMoment.Read(text, "Europe/Dublin"));

    [Fact]
    public void What_is_written_is_read_again() =>
        Assert.Equal(Noon, WorkspaceMoment.Read(WorkspaceMoment.Write(Noon, "Asia/Kathmandu"), "Asia/Kathmandu"));
}

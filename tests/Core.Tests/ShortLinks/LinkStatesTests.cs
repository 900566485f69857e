using PreciseBeacon.Core.ShortLinks;

namespace PreciseBeacon.CoreTests.ShortLinks;

public class LinkStatesTests
{
    private static readonly DateTimeOffset Now = new(2026, 10, 2, 12, 0, 0, TimeSpan.Zero);

    [Theory]
    [InlineData(false, true, false, false, 1, 1, LinkState.Live)]
    [InlineData(false, true, false, false, null, null, LinkState.Live)]
    [InlineData(false, true, false, true, null, null, LinkState.Paused)]
    [InlineData(false, true, false, true, 0, null, LinkState.Ended)]
    [InlineData(false, true, false, false, null, 0, LinkState.Ended)]
    [InlineData(false, true, true, false, -1, 0, LinkState.Waiting)]
    [InlineData(false, false, false, false, null, null, LinkState.Unshortened)]
    [InlineData(true, true, true, true, -1, 0, LinkState.Retired)]
    public void The_first_that_fits_wins(
        bool retired,
        bool shortened,
        bool waiting,
        bool paused,
        int? endsInHours,
        int? usesLeft,
        LinkState state
    ) =>
        Assert.Equal(
            state,
            LinkStates.Of(retired, shortened, waiting, paused, endsInHours is { } hours ? Now.AddHours(hours) : null, usesLeft, Now)
        );
}

using PreciseBeacon.Core.Links;

namespace PreciseBeacon.CoreTests.Links;

public sealed class TopicsTests
{
    [Fact]
    public void Topics_are_kept_in_one_form()
    {
        Assert.Equal(["lake side", "winter"], Topics.Read([" Winter", "lake  side", "WINTER", "", null], out string? problem));
        Assert.Null(problem);
    }

    [Theory]
    [InlineData("a,b")]
    [InlineData("a\u0007b")]
    [InlineData("a topic that is much longer than anybody would want to read")]
    public void What_can_be_no_topic_is_refused_with_the_reason(string topic)
    {
        Topics.Read([topic], out string? problem);
        Assert.NotNull(problem);
    }

    [Fact]
    public void A_link_has_at_most_twenty()
    {
        Topics.Read(Enumerable.Range(0, 21).Select(i => $"t{i}"), out string? problem);
        Assert.Contains("at most 20", problem, StringComparison.Ordinal);
    }
}

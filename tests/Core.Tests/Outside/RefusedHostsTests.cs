using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Outside;
using PreciseBeacon.CoreTests.Conventions;

namespace PreciseBeacon.CoreTests.Outside;

public sealed class RefusedHostsTests
{
    private static readonly HashSet<string> List = ["refused.example", "[::1]"];

    [Theory]
    [InlineData("refused.example", "refused.example")]
    [InlineData("refused.example:8080", "refused.example")]
    [InlineData("a.b.refused.example", "refused.example")]
    [InlineData("refused.example.", "refused.example")]
    [InlineData("[::1]:80", "[::1]")]
    [InlineData("notrefused.example", null)]
    [InlineData("refused.example.marrowmere.example", null)]
    [InlineData("example", null)]
    public void A_host_falls_under_an_entry_with_all_below_it(string host, string? entry) =>
        Assert.Equal(entry, RefusedHosts.Find(List, host));

    [Theory]
    [InlineData("https://Refused.Example:8080/x?y", "refused.example")]
    [InlineData(" refused.example ", "refused.example")]
    [InlineData("bücher.example", "xn--bcher-kva.example")]
    [InlineData("no host", null)]
    [InlineData("", null)]
    public void An_entry_is_read_from_whatever_is_typed(string typed, string? host)
    {
        var read = RefusedHosts.Read(typed);
        Assert.Equal(host, read.Host);
        Assert.Equal(host is null, read.Problem is not null);
    }

    [Fact]
    public void What_is_refused_stops_a_link_even_where_it_was_approved()
    {
        var facts = LinkFacts.None(new DateOnly(2026, 11, 25)) with
        {
            ApprovedHosts = new HashSet<string> { "www.refused.example", "mmr.example" },
            RefusedHosts = List,
            ShortHosts = new HashSet<string> { "mmr.example" },
        };
        Assert.False(facts.IsOwnOrApproved("www.refused.example"));
        foreach (
            var (page, rule) in new[]
            {
                ("https://www.refused.example/x", NoticeRules.HostRefused),
                ("https://mmr.example/fern", NoticeRules.LeadsToShortLink),
            }
        )
        {
            var composed = LinkPipeline.Run(
                GardenConvention.Garden,
                new LinkRequest(page, new Dictionary<string, string>(), GardenConvention.Lanterns, GardenConvention.Trellis),
                facts
            );
            Assert.Contains(composed.Notices, n => n.Rule == rule.Name && n.Severity == Severity.Error);
            Assert.False(composed.Ready);
        }
    }
}

using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Proofs;

namespace PreciseBeacon.CoreTests.Proofs;

public sealed class TraceFindingsTests
{
    private const string Tags = "?utm_source=post&utm_medium=email&utm_campaign=lantern-nights";
    private static readonly TracedPage Page = new("Lantern Nights", 4_000, ["key"], 1);

    private static readonly TraceFacts Facts = new(
        k => k.StartsWith("utm_", StringComparison.Ordinal),
        new Dictionary<string, TracedSite>
        {
            ["marrowmere.example"] = new("Garden", "key", MeasuredLately: true),
            ["quiet.example"] = new("Quiet", "other", MeasuredLately: false),
        },
        new HashSet<string> { "tickets.example" }
    );

    private static PageTrace Trace(params (string Url, int? Status)[] hops) =>
        new([.. hops.Select(h => new TraceHop(h.Url, h.Status, 100))], hops[^1].Status is null ? null : Page);

    private static string Rules(PageTrace tagged, PageTrace? plain = null) =>
        string.Join(", ", TraceFindings.Of(tagged, plain, Facts).Select(f => $"{f.Rule}{(f.Hop is { } hop ? $"@{hop}" : "")}"));

    [Fact]
    public void A_page_that_answers_with_its_tags_has_none()
    {
        Assert.Equal("", Rules(Trace(($"https://marrowmere.example/a{Tags}", 200)), Trace(("https://marrowmere.example/a", 200))));
        Assert.Equal("", Rules(Trace(($"http://marrowmere.example/a{Tags}", 301), ($"https://marrowmere.example/a/{Tags}", 200))));
    }

    /// <summary>Which redirect loses which tags is told once, however many follow.</summary>
    [Fact]
    public void The_redirect_that_drops_tags_is_named()
    {
        var found = TraceFindings.Of(
            Trace(
                ($"https://marrowmere.example/a{Tags}", 301),
                ($"https://marrowmere.example/b{Tags}", 302),
                ("https://marrowmere.example/c?utm_source=post", 302),
                ("https://marrowmere.example/d", 200)
            ),
            null,
            Facts
        );
        Assert.Equal([(FindingRules.TagsDropped, 2), (FindingRules.TagsDropped, 3)], found.Select(f => (f.Rule, f.Hop!.Value)));
        Assert.Contains("drops utm_campaign, utm_medium.", found[0].Message, StringComparison.Ordinal);
        Assert.Contains("from marrowmere.example/b to marrowmere.example/c", found[0].Message, StringComparison.Ordinal);
        Assert.Contains("drops utm_source.", found[1].Message, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("https://marrowmere.example/b?utm_source=POST&utm_medium=email&utm_campaign=lantern-nights", "tags-changed@1")]
    [InlineData("http://marrowmere.example/b?utm_source=post&utm_medium=email&utm_campaign=lantern-nights", "https-to-http@1")]
    [InlineData("https://elsewhere.example/b?utm_source=post&utm_medium=email&utm_campaign=lantern-nights", "other-host@2")]
    [InlineData("https://tickets.example/b?utm_source=post&utm_medium=email&utm_campaign=lantern-nights", "")]
    [InlineData("https://marrowmere.example/b#utm_source=post&utm_medium=email&utm_campaign=lantern-nights", "")]
    public void What_a_redirect_does_wrong(string to, string rules) =>
        Assert.Equal(rules, Rules(Trace(($"https://marrowmere.example/a{Tags}", 302), (to, 200))));

    [Theory]
    [InlineData(404, 404, "Repair the page")]
    [InlineData(500, 500, "an error of its server")]
    [InlineData(500, 200, "Without tags it answers")]
    public void A_page_that_answers_an_error_is_told_from_one_that_stumbles_over_tags(int tagged, int plain, string says)
    {
        var found = Assert.Single(
            TraceFindings.Of(Trace(($"https://marrowmere.example/a{Tags}", tagged)), Trace(("https://marrowmere.example/a", plain)), Facts)
        );
        Assert.Equal((FindingRules.ErrorStatus, Severity.Error), (found.Rule, found.Severity));
        Assert.Contains(says, found.Message, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(TraceProblem.Unreachable, FindingRules.PageUnreachable, Severity.Error)]
    [InlineData(TraceProblem.TooSlow, FindingRules.PageTooSlow, Severity.Error)]
    [InlineData(TraceProblem.TooManyRedirects, FindingRules.TooManyRedirects, Severity.Error)]
    [InlineData(TraceProblem.CountedLink, FindingRules.LeadsToShortLink, Severity.Warning)]
    [InlineData(TraceProblem.Unsubscribes, FindingRules.NotFetched, Severity.Info)]
    public void A_way_that_ends_nowhere_says_why(TraceProblem problem, string rule, Severity severity)
    {
        var found = Assert.Single(
            TraceFindings.Of(
                Trace(($"https://marrowmere.example/a{Tags}", null)) with
                {
                    Problem = problem,
                    Says = "It broke.",
                },
                null,
                Facts
            )
        );
        Assert.Equal((rule, severity), (found.Rule, found.Severity));
    }

    [Fact]
    public void A_page_that_answers_differently_with_tags_is_found()
    {
        var tagged = Trace(($"https://marrowmere.example/a{Tags}", 200));
        string Differing(TracedPage page) => Rules(tagged with { Page = page }, Trace(("https://marrowmere.example/a", 200)));

        Assert.Equal("", Differing(Page with { Body = 2, Octets = 7_999 }));
        Assert.Equal(FindingRules.AnswersDifferently, Differing(Page with { Body = 2, Octets = 8_001 }));
        Assert.Equal(FindingRules.AnswersDifferently, Differing(Page with { Body = 2, Octets = 1_999 }));
        Assert.Equal(FindingRules.AnswersDifferently, Differing(Page with { Body = 2, Title = "Not found" }));
    }

    [Theory]
    [InlineData("marrowmere.example", "key", "")]
    [InlineData("marrowmere.example", "", "script-missing Info")]
    [InlineData("quiet.example", "", "script-missing Warning")]
    [InlineData("quiet.example", "key", "script-of-another-site Error")]
    [InlineData("tickets.example", "", "")]
    public void The_script_on_the_page_is_its_sites_own(string host, string keys, string found) =>
        Assert.Equal(
            found,
            string.Join(
                ", ",
                TraceFindings
                    .Of(
                        Trace(($"https://{host}/a{Tags}", 200)) with
                        {
                            Page = Page with { Keys = [.. keys.Split(',', StringSplitOptions.RemoveEmptyEntries)] },
                        },
                        null,
                        Facts
                    )
                    .Select(f => $"{f.Rule} {f.Severity}")
            )
        );

    [Fact]
    public void Over_three_seconds_are_slow()
    {
        PageTrace Taking(int milliseconds) => new([new TraceHop($"https://marrowmere.example/a{Tags}", 200, milliseconds)], Page);

        Assert.Equal("", Rules(Taking(3_000)));
        Assert.Equal(FindingRules.SlowPage, Rules(Taking(3_001)));
    }
}

using PreciseBeacon.Core.Outside;

namespace PreciseBeacon.CoreTests.Outside;

public sealed class RobotsRulesTests
{
    /// <summary>RFC 9309, section 5.1: the simple example, with one group for two programs and one without rules.</summary>
    private const string Simple = """
        User-Agent: *
        Disallow: *.gif$
        Disallow: /example/
        Allow: /publications/

        User-Agent: foobot
        Disallow:/
        Allow:/example/page.html
        Allow:/example/allowed.gif

        User-Agent: barbot
        User-Agent: bazbot
        Disallow: /example/page.html

        User-Agent: quxbot
        """;

    [Theory]
    [InlineData("other", "/publications/x", true)]
    [InlineData("other", "/example/x", false)]
    [InlineData("other", "/a/b.gif", false)]
    [InlineData("other", "/a/b.gif?c", true)]
    [InlineData("foobot", "/publications/x", false)]
    [InlineData("FooBot", "/example/page.html", true)]
    [InlineData("foobot", "/example/allowed.gif", true)]
    [InlineData("barbot", "/example/page.html", false)]
    [InlineData("bazbot", "/example/page.html", false)]
    [InlineData("bazbot", "/example/other.html", true)]
    [InlineData("quxbot", "/example/page.html", true)]
    public void The_standards_simple_example(string agent, string path, bool allowed) =>
        Assert.Equal(allowed, RobotsRules.Parse(Simple, agent).Allows(path));

    /// <summary>RFC 9309, section 5.2: the longest match decides.</summary>
    [Theory]
    [InlineData("/example/page/disallowed.gif", false)]
    [InlineData("/example/page/", true)]
    public void The_longest_rule_decides(string path, bool allowed) =>
        Assert.Equal(
            allowed,
            RobotsRules.Parse("User-Agent: foobot\nAllow: /example/page/\nDisallow: /example/page/disallowed.gif\n", "foobot").Allows(path)
        );

    [Theory]
    [InlineData("Allow: /p\nDisallow: /p", "/p", true)]
    [InlineData("Disallow: /p # not yet", "/page", false)]
    [InlineData("Disallow: ", "/page", true)]
    [InlineData("Disallow: /a*b*c", "/aXXbYc/d", false)]
    [InlineData("Disallow: /a*b$", "/aXb", false)]
    [InlineData("Disallow: /a*b$", "/aXbY", true)]
    [InlineData("Disallow: /a$", "/a", false)]
    [InlineData("Disallow: /a$", "/ab", true)]
    [InlineData("disallow:/p", "/p", false)]
    [InlineData("Nonsense", "/p", true)]
    [InlineData("Crawl-delay: 5\nDisallow: /p", "/p", false)]
    public void What_rules_mean(string rules, string path, bool allowed) =>
        Assert.Equal(allowed, RobotsRules.Parse($"User-agent: *\n{rules}\n", "precisebeacon").Allows(path));

    [Fact]
    public void Groups_of_one_program_are_one_and_no_file_allows_everything()
    {
        var two = RobotsRules.Parse(
            "User-agent: precisebeacon\nDisallow: /a\nUser-agent: x\nDisallow: /\nUser-agent: PreciseBeacon\nDisallow: /b",
            "precisebeacon"
        );
        Assert.Equal([false, false, true], new[] { "/a", "/b", "/c" }.Select(two.Allows));
        Assert.True(RobotsRules.All.Allows("/anything"));
        Assert.False(RobotsRules.Nothing.Allows("/anything"));
        Assert.True(RobotsRules.Parse("", "precisebeacon").Allows("/"));
    }
}

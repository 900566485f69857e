using System.Text.Json;
using System.Text.RegularExpressions;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.CoreTests.Outside;

namespace PreciseBeacon.CoreTests.Traffic;

/// <summary>Asked at once, patterns answer as each of them asked alone by the platform's own expressions.</summary>
public sealed class UserAgentPatternsTests
{
    [Theory]
    [InlineData("Sedge\\.It", "I am Sedge.It", true)]
    [InlineData("Sedge\\.It", "I am Sedge-It", false)]
    [InlineData("^Sedge", "a Sedge", false)]
    [InlineData("[sS]edge", "a sedge", true)]
    [InlineData("sedge", "Sedge", false)]
    [InlineData("Sedge[\\s\\S]*Reed", "Sedge and Reed", true)]
    [InlineData("Sedge\\/\\d", "Sedge/x", false)]
    public void One_pattern(string pattern, string text, bool matches)
    {
        Assert.Equal(Regex.IsMatch(text, pattern), matches);
        Assert.Equal(matches, new UserAgentPatterns([pattern, "never such a word"]).IsMatch(text));
    }

    [Fact]
    public void All_patterns_of_the_data_set_over_all_crawlers_and_browsers()
    {
        using var data = JsonDocument.Parse(NpmPackage.Read("crawler-user-agents/crawler-user-agents.json"));
        var entries = data.RootElement.EnumerateArray().ToList();
        var patterns = entries.ConvertAll(e => e.GetProperty("pattern").GetString()!);
        var alone = patterns.ConvertAll(p => new Regex(p, RegexOptions.CultureInvariant));
        var together = new UserAgentPatterns(patterns);
        var texts = entries
            .SelectMany(e => e.GetProperty("instances").EnumerateArray().Select(i => i.GetString()!))
            .Concat(NpmPackage.UserAgents().Select(b => b.UserAgent).Distinct().Take(2_000));
        Assert.All(texts, text => Assert.Equal(alone.Exists(p => p.IsMatch(text)), together.IsMatch(text)));
    }
}

using System.Text.Json;
using System.Text.RegularExpressions;
using PreciseBeacon.Core.Traffic.UserAgents;
using PreciseBeacon.CoreTests.Outside;
using YamlDotNet.RepresentationModel;

namespace PreciseBeacon.CoreTests.Traffic.UserAgents;

public sealed class RequiredWordsTests
{
    /// <summary>Sets apart by spaces, words of one by bars.</summary>
    [Theory]
    [InlineData("Fernleaf", "Fernleaf")]
    [InlineData(@"(Fern)leaf/(\d+)\.(\d+)", "Fern leaf/")]
    [InlineData("(Fernleaf)/x", "Fernleaf")]
    [InlineData("Fern(leaf)?/12", "Fern /12")]
    [InlineData("Fern(leaf|moss)/y", "Fern leaf|moss")]
    [InlineData("(?:Fernleaf|Thistle)/9", "Fernleaf|Thistle")]
    [InlineData("(?:Fernleaf|)/900", "/900")]
    [InlineData("Fernleaf|Thistle", "Fernleaf|Thistle")]
    [InlineData(@"Fernleaf|\d+", "")]
    [InlineData("Ferns?leaf", "Fern leaf")]
    [InlineData("Fernx*leaf", "Fern leaf")]
    [InlineData("Fern+leaf", "Fern nleaf")]
    [InlineData("Fernx{0,3}leaf", "Fern leaf")]
    [InlineData("abc{2,3}de", "abc cde")]
    [InlineData("[Ff]ernleaf", "Fernleaf")]
    [InlineData("[fm]ernleaf", "ernleaf")]
    [InlineData(@"[]\]x]leaf", "leaf")]
    [InlineData(@"a\.b\/c", "a.b/c")]
    [InlineData("^Fern.{1,200}leafy$", "Fern leafy")]
    [InlineData("(?!Fernleaf)Moss", "Moss")]
    [InlineData("(?<=Fernleaf)Moss", "Moss")]
    [InlineData(@"\w+", "")]
    [InlineData("(aa(bb(Fern)c)d)", "Fern")]
    public void A_text_must_hold_one_of_each(string pattern, string words) =>
        Assert.Equal(words, string.Join(' ', RequiredWords.Of(pattern).Select(set => string.Join('|', set))));

    /// <summary>No expression of the data set (uap-core 0.18, npm) matches a known agent that holds none of its words.</summary>
    [Fact]
    public void No_expression_matches_without_them()
    {
        var yaml = new YamlStream();
        yaml.Load(new StringReader(NpmPackage.Read("uap-core/regexes.yaml")));
        var root = (YamlMappingNode)yaml.Documents[0].RootNode;
        using var crawlers = JsonDocument.Parse(NpmPackage.Read("crawler-user-agents/crawler-user-agents.json"));
        string[] agents =
        [
            .. NpmPackage.UserAgents().Select(a => a.UserAgent).Where((_, i) => i % 20 == 0),
            .. crawlers
                .RootElement.EnumerateArray()
                .SelectMany(c => c.GetProperty("instances").EnumerateArray())
                .Select(a => a.GetString()!)
                .Where((_, i) => i % 10 == 0),
        ];
        int told = 0;
        int expressions = 0;
        foreach (var rule in root.Children.Values.Cast<YamlSequenceNode>().SelectMany(l => l).Cast<YamlMappingNode>())
        {
            expressions++;
            string pattern = ((YamlScalarNode)rule["regex"]).Value!;
            var options = rule.Children.ContainsKey("regex_flag") ? RegexOptions.IgnoreCase : RegexOptions.None;
            var words = RequiredWords.Of(pattern);
            told += words.Count > 0 ? 1 : 0;
            var expression = new Regex(pattern, options | RegexOptions.CultureInvariant);
            foreach (string agent in agents.Where(a => words.Any(set => !set.Any(w => a.Contains(w, StringComparison.OrdinalIgnoreCase)))))
            {
                Assert.False(expression.IsMatch(agent), $"{pattern} matches {agent} without its words");
            }
        }

        Assert.True(told > 0.95 * expressions, $"{told} of {expressions}");
    }
}

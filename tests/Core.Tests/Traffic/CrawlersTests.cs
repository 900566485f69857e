using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.CoreTests.Outside;
using PreciseBeacon.CoreTests.Speed;
using Xunit.Abstractions;

namespace PreciseBeacon.CoreTests.Traffic;

/// <summary>People and programs told apart, against open data: crawler-user-agents 1.60 (MIT) and user-agents 2.1 (BSD), both npm.</summary>
public sealed class CrawlersTests(ITestOutputHelper output)
{
    private static List<(string Pattern, List<string> Examples)> Known()
    {
        using var data = JsonDocument.Parse(NpmPackage.Read("crawler-user-agents/crawler-user-agents.json"));
        return
        [
            .. data
                .RootElement.EnumerateArray()
                .Select(e =>
                    (
                        e.GetProperty("pattern").GetString()!,
                        e.GetProperty("instances").EnumerateArray().Select(i => i.GetString()!).ToList()
                    )
                ),
        ];
    }

    [Fact]
    public void Every_crawler_of_the_open_data_set_is_recognised()
    {
        var examples = Known().SelectMany(k => k.Examples).ToList();
        Assert.True(examples.Count > 2_000);
        Assert.All(examples, e => Assert.True(Crawlers.IsCrawler(e), e));
        output.WriteLine($"{examples.Count:N0} of {examples.Count:N0} known crawlers");
    }

    /// <summary>Each crawler in turn treated as one nobody has listed yet: its own entry is taken away, all others stay.</summary>
    [Fact]
    public void Most_crawlers_nobody_has_listed_are_recognised_by_how_they_speak()
    {
        var known = Known();
        var patterns = known.ConvertAll(k => new Regex(k.Pattern, RegexOptions.CultureInvariant));
        int all = 0,
            listed = 0,
            spoken = 0;
        for (int i = 0; i < known.Count; i++)
        {
            foreach (string example in known[i].Examples)
            {
                all++;
                bool byOthers = patterns.Where((_, j) => j != i).Any(p => p.IsMatch(example));
                listed += byOthers ? 1 : 0;
                spoken += byOthers || Crawlers.IsProgram(example) ? 1 : 0;
            }
        }

        output.WriteLine(
            $"unlisted crawlers recognised: {spoken} of {all} ({100.0 * spoken / all:F1} %); by the list alone {listed} ({100.0 * listed / all:F1} %)"
        );
        Assert.True(spoken >= 0.93 * all, $"{spoken} of {all}");
        Assert.True(listed < spoken);
    }

    [Fact]
    public void Browsers_are_people()
    {
        var browsers = NpmPackage.UserAgents();
        Assert.Equal(10_000, browsers.Count);
        var taken = browsers.Where(b => Crawlers.IsCrawler(b.UserAgent)).ToList();
        output.WriteLine($"browsers taken for crawlers: {taken.Count} of {browsers.Count}, {taken.Sum(t => t.Share):P3} of traffic");
        Assert.True(taken.Sum(t => t.Share) <= 0.000_5, string.Join('\n', taken.Select(t => t.UserAgent)));
    }

    [Theory]
    [InlineData("Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1", false)]
    [InlineData("Opera/9.80 (Computer) Fernleaf/12.1", false)]
    [InlineData("Mozilla/5.0 (Phone; Quibot 7 Plus Build/A1) Fernleaf/12.1", false)] // a phone may be called like that
    [InlineData("Mozilla/5.0 (compatible; Sedgebot/2.0)", true)]
    [InlineData("Mozilla/5.0 (compatible; Sedge; https://sedge.example/about)", true)]
    [InlineData("Mozilla/5.0 (Computer) Fernleaf/12.1 sedge@sedge.example", true)]
    [InlineData("sedge-client/1.4", true)]
    [InlineData(" ", true)]
    public void Programs_speak_otherwise_than_browsers(string userAgent, bool program) =>
        Assert.Equal(program, Crawlers.IsCrawler(userAgent));

    /// <summary>
    /// Nobody who sends a hundred thousand different user agents makes judging slow, however long and odd they are. Beside
    /// hashing the same texts in the same run, since the machine is shared: it takes some 25 times as long, and took 25,000.
    /// </summary>
    [Fact]
    public void A_hundred_thousand_unseen_user_agents_are_judged_in_moments()
    {
        const int Rounds = 100;
        const int Each = 1_000;
        string[] fillings =
        [
            new('a', 380),
            string.Concat(Enumerable.Repeat("a.", 190)),
            string.Concat(Enumerable.Repeat("a@", 190)),
            "Fernleaf/12.1",
            string.Concat(Enumerable.Repeat("Current RSS Spider ", 20)),
        ];
        Crawlers.IsCrawler("Mozilla/5.0 warm");
        double ratio = TimeRatio.Median(
            Rounds,
            round => [.. Enumerable.Range(0, Each).Select(i => $"Mozilla/5.0 ({round}.{i}) {fillings[i % fillings.Length]}")],
            a => Crawlers.IsCrawler(a),
            a => SHA256.HashData(Encoding.UTF8.GetBytes(a))
        );
        output.WriteLine($"{ratio:F1} times as long as hashing");
        Assert.True(ratio <= 200, $"{ratio:F1} times as long as hashing");
    }
}

using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Composing.Checks;
using PreciseBeacon.Core.Conventions.Document;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.CoreTests.Conventions;
using static PreciseBeacon.CoreTests.Conventions.SampleFiles;

namespace PreciseBeacon.CoreTests.Composing;

/// <summary>Every rule speaks about its faulty link in <c>samples/old-links.csv</c>, and none about five hundred clean ones.</summary>
public sealed class OldLinksTests
{
    /// <summary>Names are looked up before the core is asked; <c>ComposeTests</c> has these two.</summary>
    private static readonly string[] FoundWhenLookedUp = ["campaign-unknown", "placement-unknown"];

    private static readonly LinkFacts Facts = new(
        new Dictionary<string, TagStyle> { ["marrowmere.example"] = TagStyle.Query, ["app.marrowmere.example"] = TagStyle.Fragment },
        new HashSet<string> { "vale.example" },
        new HashSet<string> { "marrowmere.example" },
        GardenConvention.Today
    )
    {
        RefusedHosts = new HashSet<string> { "refused.example" },
        ShortHosts = new HashSet<string> { "mmr.example" },
        Campaigns = CampaignWords.Of(Garden, Campaigns.Values),
    };

    private static readonly Lazy<IReadOnlyDictionary<int, ComposedLink>> Built = new(() =>
    {
        var rows = OldLinks().Where(l => l.How == "build").ToList();
        var links = rows.Select(r => LinkPipeline.Run(Garden, RequestOf(r), Facts)).ToList();
        string made = links[rows.FindIndex(r => r.Fields == "Content=made_before")].Tagged!.Url;
        var judged = TwinCheck.Run(links, new Dictionary<string, string> { [made] = "Made before" });
        return rows.Zip(judged).ToDictionary(r => r.First.Row, r => r.Second);
    });

    public static TheoryData<int, string> Faulty()
    {
        var data = new TheoryData<int, string>();
        foreach (var link in OldLinks().Where(l => !FoundWhenLookedUp.Contains(l.Rule)))
        {
            data.Add(link.Row, link.Rule);
        }

        return data;
    }

    [Theory]
    [MemberData(nameof(Faulty))]
    public void A_faulty_link_is_noticed(int row, string rule)
    {
        var link = OldLinks()[row - 2];
        var notices =
            link.How == "read"
                ? LinkInspector
                    .Inspect(
                        Garden,
                        link.Link,
                        Facts,
                        link.StandsOn.Length == 0 ? null : DestinationReader.Read(link.StandsOn).Destination!.HostAndPort
                    )
                    .Notices
                : Built.Value[row].Notices;
        var found = notices.FirstOrDefault(n => n.Rule == rule);
        Assert.True(
            found is not null,
            $"Row {row} should break “{rule}”, but says: {string.Join(" | ", notices.Select(n => $"{n.Rule}: {n.Message}"))}"
        );
        Assert.EndsWith(".", found.Message.TrimEnd('?') + (found.Message.EndsWith('?') ? "." : ""), StringComparison.Ordinal);
    }

    [Fact]
    public void Every_rule_has_its_faulty_link() =>
        Assert.Equal(NoticeRules.All.Select(r => r.Name), OldLinks().Select(l => l.Rule).Distinct().Order(StringComparer.Ordinal));

    [Fact]
    public void Nothing_is_said_about_five_hundred_clean_links()
    {
        string[] pages =
        [
            "https://marrowmere.example/",
            "https://marrowmere.example/lanterns?day=1",
            "https://marrowmere.example/a%2Fb?list=1&list=2",
            "https://vale.example/garden",
            "https://marrowmere.example/shop/bulbs#tulips",
        ];
        string[] regions = ["", "north", "city", "coast", "abroad"];
        string[] contents = ["", "header_button", "footer-link", "größe_2"];
        var said = new List<string>();
        int clean = 0;
        foreach (string page in pages)
        {
            foreach (var placement in Placements.Values.Where(p => p.ToolWrites is null && !p.Defaults.Values.Any(FillIns.In)))
            {
                foreach (string region in regions.Where(r => placement.Name != "Gate poster" || r.Length > 0))
                {
                    foreach (string content in contents.Concat(["{keyword}", "lawn_and_order", "2_for_1"]))
                    {
                        var fields = new Dictionary<string, string> { ["Region"] = region, ["Content"] = content };
                        var link = LinkPipeline.Run(Garden, new LinkRequest(page, fields, Campaigns["Lantern Nights"], placement), Facts);
                        var read = LinkInspector.Inspect(Garden, link.Tagged!.Url, Facts);
                        said.AddRange(link.Notices.Concat(read.Notices).Select(n => $"{link.Tagged.Url} {n.Rule}: {n.Message}"));
                        Assert.Equal(link.Tagged.Url, read.Mended!.Tagged!.Url);
                        clean++;
                    }
                }
            }
        }

        Assert.Empty(said.Take(5));
        Assert.True(clean >= 500, $"{clean} links");
    }

    [Fact]
    public void An_owner_sets_severities_but_not_of_what_keeps_the_link_whole()
    {
        var document = ConventionYaml.Read(File.ReadAllText(PathOf("garden-convention.yaml")));
        var strict = (
            document with
            {
                Severities = new Dictionary<string, Severity> { ["word-new"] = Severity.Error, ["no-tags"] = Severity.Info },
            }
        ).ToConvention(1, new LinkSettings());
        var link = LinkPipeline.Run(
            strict,
            new LinkRequest(
                "https://marrowmere.example/",
                new Dictionary<string, string> { ["Source"] = "new_one" },
                Campaigns["Lantern Nights"],
                Placements["The Trellis"]
            ),
            Facts
        );
        Assert.Equal(Severity.Error, link.Notices.Single(n => n.Rule == "word-new").Severity);
        Assert.False(link.Ready);
        foreach (var rule in NoticeRules.All.Where(r => r.Protects))
        {
            var loose = document with { Severities = new Dictionary<string, Severity> { [rule.Name] = Severity.Info } };
            Assert.Contains(
                rule.Name,
                Assert.Throws<ConventionException>(() => loose.ToConvention(1, new LinkSettings())).Message,
                StringComparison.Ordinal
            );
        }
    }
}

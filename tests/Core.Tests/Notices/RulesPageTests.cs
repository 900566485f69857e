using PreciseBeacon.Core.Notices;
using PreciseBeacon.CoreTests.Conventions;

namespace PreciseBeacon.CoreTests.Notices;

public sealed class RulesPageTests
{
    [Fact]
    public void The_page_of_rules_is_the_one_the_code_makes()
    {
        string page = Path.GetFullPath(Path.Combine(SampleFiles.PathOf("old-links.csv"), "../../docs/rules.md"));
        if (Environment.GetEnvironmentVariable("BEACON_WRITE_RULES") is { Length: > 0 })
        {
            File.WriteAllText(page, RulesPage.Write());
        }

        Assert.True(File.ReadAllText(page) == RulesPage.Write(), "docs/rules.md is stale; run scripts/rules.");
        Assert.All(NoticeRules.All, r => Assert.EndsWith(".", r.About, StringComparison.Ordinal));
        Assert.All(NoticeRules.All, r => Assert.NotEmpty(r.Example));
    }
}

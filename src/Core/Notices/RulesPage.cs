using System.Text;

namespace PreciseBeacon.Core.Notices;

/// <summary>The page <c>docs/rules.md</c>, made from the rules so that it can't go stale.</summary>
public static class RulesPage
{
    public static string Write()
    {
        var page = new StringBuilder(
            """
            # Rules that speak about links

            Made from `src/Core/Notices/NoticeRules.cs` by `scripts/rules`; a test compares. A **stop** keeps a link from being
            saved, a **look** is probably wrong, a **note** is worth knowing. The owner may set another severity for a rule,
            except for those that keep the link itself whole. `samples/old-links.csv` has a faulty link for each.

            | rule | usually | speaks when | for example |
            | --- | --- | --- | --- |

            """);
        foreach (var rule in NoticeRules.All)
        {
            string severity = rule.Severity.ToString().ToLowerInvariant();
            page.Append("| `").Append(rule.Name).Append("` | ").Append(severity).Append(rule.Protects ? ", fixed" : "")
                .Append(" | ").Append(Cell(rule.About)).Append(" | ").Append(Cell(rule.Example)).Append(" |\n");
        }

        return page.ToString().ReplaceLineEndings("\n");
    }

    private static string Cell(string text) => text.Replace("|", "\\|", StringComparison.Ordinal);
}

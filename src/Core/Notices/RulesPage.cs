using System.Text;

namespace PreciseBeacon.Core.Notices;

/// <summary>The page <c>docs/rules.md</c>, made from the rules so that it can't go stale.</summary>
public static class RulesPage
{
    public static string Write()
    {
        var page = new StringBuilder(
            """
            # Rules for links

            Made from `src/Core/Notices/NoticeRules.cs` by `scripts/rules`; a test compares. An **error** keeps a link from being
            saved, a **warning** is probably a mistake, an **info** is good to know. An owner can set another severity for a rule,
            except for those that keep the link working. `samples/old-links.csv` has a faulty link for each.

            | rule | default severity | condition | example |
            | --- | --- | --- | --- |

            """
        );
        foreach (var rule in NoticeRules.All)
        {
            string severity = rule.Severity.ToString().ToLowerInvariant();
            page.Append("| `")
                .Append(rule.Name)
                .Append("` | ")
                .Append(severity)
                .Append(rule.Protects ? ", fixed" : "")
                .Append(" | ")
                .Append(Cell(rule.About))
                .Append(" | ")
                .Append(Cell(rule.Example))
                .Append(" |\n");
        }

        return page.ToString().ReplaceLineEndings("\n");
    }

    private static string Cell(string text) => text.Replace("|", "\\|", StringComparison.Ordinal);
}

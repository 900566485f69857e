using System.Text.Json;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.BrowserTests;

/// <summary>axe-core (npm), an independent checker of WCAG 2.2 A and AA.</summary>
public static class Accessibility
{
    private static readonly string Axe = File.ReadAllText(Path.Combine(DatabaseCluster.Root, "src/client/node_modules/axe-core/axe.min.js"));

    /// <summary>Insists that nothing on the page stands in anybody's way.</summary>
    public static void Check(Browser browser, string view)
    {
        browser.Script<object>(Axe + "; return true");
        string found = browser.ScriptAsync<string>(
            """
            const done = arguments[arguments.length - 1];
            axe.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] })
              .then((r) => done(JSON.stringify(r.violations.map((v) => v.id + ': ' + v.nodes.slice(0, 3).map((n) => n.html + ' ' + n.failureSummary).join(' | ')))));
            """);
        Assert.True(JsonSerializer.Deserialize<string[]>(found)!.Length == 0, $"{view}: {found}");
    }
}

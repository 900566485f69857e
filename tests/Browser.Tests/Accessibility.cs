using System.Text.Json;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.BrowserTests;

/// <summary>axe-core (npm), an independent checker of WCAG 2.2 A and AA.</summary>
public static class Accessibility
{
    private static readonly string Axe = File.ReadAllText(
        Path.Combine(DatabaseCluster.Root, "src/client/node_modules/axe-core/axe.min.js")
    );

    /// <summary>Insists that nothing on the page stands in anybody's way, in the light theme nor in the dark one, which differs in colours alone.</summary>
    public static void Check(Browser browser, string view)
    {
        browser.Script<object>(Axe + "; return true");
        string found = browser.ScriptAsync<string>(
            """
            const done = arguments[arguments.length - 1];
            const faults = (theme, result) => result.violations.map((v) => theme + ', ' + v.id + ': ' + v.nodes.slice(0, 3).map((n) => n.html + ' ' + n.failureSummary).join(' | '));
            const look = async () => {
              const page = document.documentElement.dataset;
              page.theme = 'light';
              const light = await axe.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] });
              page.theme = 'dark';
              const dark = await axe.run(document, { runOnly: ['color-contrast'] });
              page.theme = 'light';
              return [...faults('light', light), ...faults('dark', dark)];
            };
            look().then((all) => done(JSON.stringify(all)), (broken) => done(JSON.stringify([String(broken)])));
            """
        );
        Assert.True(JsonSerializer.Deserialize<string[]>(found)!.Length == 0, $"{view}: {found}");
    }
}

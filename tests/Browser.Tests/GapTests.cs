using System.Globalization;
using PreciseBeacon.WebTests.Hosting;
using PreciseBeacon.WebTests.Proofs;

namespace PreciseBeacon.BrowserTests;

/// <summary>Planted gaps to another system's figures, as somebody who brings its table in sees them.</summary>
public sealed class GapTests : PlantedGapBase
{
    protected override string[] More => [$"--Beacon:ClientDirectory={Path.Combine(DatabaseCluster.Root, "src/client/dist")}"];

    [Fact]
    public async Task Planted_gaps_stand_there_with_their_verdict_or_the_right_cause()
    {
        using var client = Host.As("editor");
        var links = await PlantAsync(client);
        string day = Begin.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
        Planted[] all = [links.Quiet, links.Ordinary, links.Lost, links.Dead, links.Programs, links.Pasted, links.Crawled];
        string file = Path.Combine(Path.GetTempPath(), $"gaps-{Guid.NewGuid():N}.csv");
        await File.WriteAllTextAsync(file, "Day,Link id,Clicks,Visits\n" + string.Concat(all.Select(l => $"{day},{l.Id},100,100\n")));
        using var browser = new Browser();
        browser.Open($"http://localhost:{Host.Port}/sign-in");
        browser.Click("button", "Orla Fenwick");
        browser.Find("heading", "Compose");
        browser.Open($"http://localhost:{Host.Port}/proof?part=reconcile");
        browser.Upload("Table of figures", file);
        browser.See("7 of 7 rows can be imported");
        browser.Type("textbox", "Which system counts this", "Wendfar");
        browser.Click("button", "Import 7 rows");
        browser.See("7 rows imported");
        File.Delete(file);

        // What is said of each link's visits, and of the clicks of the one that a crawler opened.
        Assert.Equal(
            "ordinary: ordinary; quiet: small; lost: Tags lost on the way; dead: Page not measured; programs: Programs; pasted: Printed link used elsewhere",
            Said(browser, "visits", "ordinary", "quiet", "lost", "dead", "programs", "pasted")
        );
        Assert.Equal("quiet: small; crawled: Programs", Said(browser, "clicks", "quiet", "crawled"));
        browser.See("40.0 %");

        // A trial of the page that nothing was measured on finds that it does not answer.
        await client.DoAsync(HttpMethod.Post, "/api/v1/trials", new { linkId = links.Dead.Id });
        browser.Open($"http://localhost:{Host.Port}/proof?part=reconcile");
        browser.Until(() => Said(browser, "visits", "dead") == "dead: Page broken" ? "seen" : null, "the page that does not answer");
    }

    /// <summary>The last column of the rows of some pages' figures of a kind.</summary>
    private static string Said(Browser browser, string kind, params string[] pages)
    {
        string found = browser.Until(
            () =>
                browser.Script<string>(
                    """
                    return arguments[1].split(',').map((page) => {
                      const row = [...document.querySelectorAll('tbody tr')].find((r) =>
                        r.querySelector('button')?.getAttribute('aria-label')?.includes(` ${page} · `) &&
                        r.querySelector('button').getAttribute('aria-label').includes(`, ${arguments[0]} of Wendfar`));
                      return row ? `${page}: ${row.lastElementChild.textContent}` : '';
                    }).join('; ')
                    """,
                    kind,
                    string.Join(',', pages)
                )
                    is { } said
                && !said.Contains("; ;", StringComparison.Ordinal)
                && said.Length > 0
                    ? said
                    : null,
            "the figures"
        );
        return found;
    }
}

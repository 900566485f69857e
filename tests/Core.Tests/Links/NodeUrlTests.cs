using System.Diagnostics;
using System.Text.Json;
using FsCheck.Fluent;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.CoreTests.Links;

/// <summary>
/// The same links read by Node's <c>URL</c>, an independent implementation of the WHATWG URL Standard: it must read
/// back exactly the values put in, and find host, path, other parameters and fragment as it found them before.
/// </summary>
public sealed class NodeUrlTests
{
    private const int Generated = 2_000;

    private static readonly string[] HandPicked =
    [
        "https://m.example",
        "https://m.example/",
        "https://m.example?",
        "https://m.example/?",
        "https://m.example/x?b=1",
        "https://m.example/x?b=1&b=2&b=3",
        "https://m.example/x?b",
        "https://m.example/x?b=",
        "https://m.example/x?=b",
        "https://m.example/x?&",
        "https://m.example/x?&&b=1&&",
        "https://m.example/x?b=1&",
        "https://m.example/x#top",
        "https://m.example/x#",
        "https://m.example/x?#",
        "https://m.example/x#t?c",
        "https://m.example/#/list?page=2",
        "https://m.example/x?b=1#/r?id=7",
        "https://m.example/a%2Fb",
        "https://m.example/a%2fb%20c",
        "https://m.example/x?q=%2520",
        "https://m.example/x?q=%2525",
        "https://m.example:8443/x",
        "http://m.example:80/x",
        "http://m.example:8080",
        "http://[2001:db8::1]/x",
        "http://[2001:db8::1]:8080/x?y=1",
        "http://192.0.2.1/x",
        "https://localhost:3000/x",
        "https://bücher.example/x",
        "https://BÜCHER.example/x",
        "https://xn--bcher-kva.example/x",
        "https://例え.example/パス",
        "https://m.example/;v=1.2;w/x;y=3?z=1",
        "https://m.example/" + new string('p', 3_000),
        "https://m.example/x?long=" + new string('q', 4_000),
        "https://m.example/😀",
        "https://m.example/x?e=😀",
        "https://m.example/x#😀",
        "https://m.example/מרו?ש=ל",
        "https://m.example/العربية",
        "https://m.example/e\u0301",
        "https://m.example/é",
        "https://m.example/x?q=a+b",
        "https://m.example/x?q=a%20b",
        "https://m.example/x?q=a%2Bb",
        "https://m.example/x?q=a&b&c",
        "https://m.example/x?kw={keyword}",
        "https://m.example/x?kw={{name}}",
        "https://m.example/x?kw=[id]",
        "https://m.example/x?kw=$id$",
        "https://m.example/x?kw=__ID__",
        "https://m.example/x?A=9&b=2",
        "https://m.example/x?a=old&a=older&b=2",
        "https://m.example/x?%61=9",
        "https://m.example/x?UTM_SOURCE=x",
        "https://m.example/\u200Bx",
        "  https://m.example/x  ",
        "\u00A0https://m.example/x?b=1\u200B",
        "https://m.example/x?b=\"quoted\"&c=<d>",
        "https://m.example/x?b=a|b&c=d^e`f",
        "https://m.example/a b/c d?e f=g h#i j",
        "https://m.example/x?redirect=https://n.example/y?z=1",
        "https://m.example/~orla/x.html",
        "https://m.example/x?b=1;c=2",
    ];

    private static readonly string[] Values =
    [
        "email",
        "50% off&more",
        "a=b",
        "x#y?z",
        "ü",
        "é",
        "😀👩‍🌾",
        "אבג",
        "a+b",
        "%20",
        "%2520",
        "\"'<>`",
        "a/b\\c",
        "🇮🇪",
        "[x]{y}|z^",
        "__a__",
        "1&amp;2",
        "tab\u2003space",
    ];

    [Fact]
    public async Task Node_reads_back_what_was_put_in_and_finds_the_rest_untouched()
    {
        var urls = HandPicked.Concat(LinkArbitraries.Url().Generator.Sample(Generated, 40).Select(u => u.Text)).ToList();
        var cases = urls.Select((url, i) => Case(url, Values[i % Values.Length], Values[(i * 7 + 3) % Values.Length])).ToList();
        Assert.True(HandPicked.Length >= 60 && cases.Count >= Generated + 60);

        var faults = await AskNodeAsync(cases);
        Assert.True(faults.Count == 0, $"{faults.Count} of {cases.Count}: {string.Join("\n", faults.Take(5))}");
    }

    private static object Case(string url, string a, string c)
    {
        var destination = DestinationReader.Read(url).Destination!;
        var before = TagWriter.Write(destination, [], new LinkSettings());
        var after = TagWriter.Write(destination, LinkArbitraries.Tags(a, c), new LinkSettings());
        return new
        {
            before = before.Url,
            after = after.Url,
            a,
            c,
        };
    }

    private static async Task<List<string>> AskNodeAsync(IReadOnlyList<object> cases)
    {
        const string Script = """
            const cases = JSON.parse(require('fs').readFileSync(0, 'utf8'));
            const faults = [];
            for (const { before, after, a, c } of cases) {
              const x = new URL(before), y = new URL(after);
              const others = (u) => JSON.stringify([...u.searchParams].filter(([k]) => !/^[ac]$/i.test(k)));
              const say = (what, want, got) => faults.push(`${what} of ${after}: ${want} became ${got}`);
              for (const [key, value] of [['a', a], ['c', c]]) {
                const got = y.searchParams.getAll(key);
                if (got.length !== 1 || got[0] !== value.normalize('NFC')) say(key, value, JSON.stringify(got));
              }
              if ([...y.searchParams.keys()].some((k) => k === 'A' || k === 'C')) say('keys', 'none left', y.search);
              for (const part of ['protocol', 'host', 'pathname'])
                if (x[part] !== y[part]) say(part, x[part], y[part]);
              const hashPairs = /[?&]?[ac](=|&|$)/i.test(x.hash);
              if (!hashPairs && x.hash !== y.hash) say('hash', x.hash, y.hash);
              if (others(x) !== others(y)) say('others', others(x), others(y));
            }
            process.stdout.write(JSON.stringify(faults));
            """;
        using var node = Process.Start(
            new ProcessStartInfo("node", ["-e", Script]) { RedirectStandardInput = true, RedirectStandardOutput = true }
        )!;
        await node.StandardInput.WriteAsync(JsonSerializer.Serialize(cases));
        node.StandardInput.Close();
        string answer = await node.StandardOutput.ReadToEndAsync();
        await node.WaitForExitAsync();
        Assert.Equal(0, node.ExitCode);
        return JsonSerializer.Deserialize<List<string>>(answer)!;
    }
}

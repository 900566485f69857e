using System.Diagnostics;
using System.Text.Json;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Links;
using PreciseBeacon.CoreTests.Links;

namespace PreciseBeacon.CoreTests.Composing;

/// <summary>
/// A hundred links that are hard to get right, both ways against Node's <c>URL</c> (WHATWG URL Standard): what we compose it
/// reads back, and what it composes we read back and compose again; the page's own part is as it found it before.
/// </summary>
public sealed class HardLinkTests
{
    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(60);

    /// <summary>A page's address, and the two values its link is to carry; the pages are told apart by what is hard in them.</summary>
    private static readonly (string Page, string A, string C)[] Cases =
    [
        // A question mark, a hash or a whole address inside the query.
        ("https://m.example/go?u=https://o.example/?p=1", "email", "x"),
        ("https://m.example/go?u=https://o.example/?p=1&q=2", "email", "y"),
        ("https://m.example/go?u=https%3A%2F%2Fo.example%2F%3Fp%3D1%26a%3D9", "news", "a=9"),
        ("https://m.example/go?u=//o.example/a?b#c", "news", "#c"),
        ("https://m.example/go?u=http://o.example:80/x&v=//", "a?b", "c#d"),
        ("https://m.example/?q?=1", "a", "?"),
        ("https://m.example/??", "a", "??"),
        ("https://m.example/?a?=1", "v", "w"),
        ("https://m.example/?x=1?c=2", "v", "w"),
        ("https://m.example/?x=?", "?x", "=?"),
        // Equals signs and ampersands where they are rare.
        ("https://m.example/?x==1", "==", "&"),
        ("https://m.example/?x=1==&y", "a=b=c", "d&&e"),
        ("https://m.example/?=", "=", "a&amp;b"),
        ("https://m.example/?&=&", "&", "=&="),
        ("https://m.example/?==&&==", "x", "y"),
        ("https://m.example/?x&x&x", "twice", "thrice"),
        ("https://m.example/?x=1&amp;y=2", "amp", "&amp;"),
        ("https://m.example/?x[]=1&x[]=2&x[k]=3", "[]", "[k]"),
        ("https://m.example/?x.y=1&x-y=2&x_y=3&x~y=4", "x.y", "x~y"),
        ("https://m.example/?x=1;y=2;z", ";", "1;2"),
        // Keys of ours in other dress.
        ("https://m.example/?a=1", "2", ""),
        ("https://m.example/?A=1&C=2", "one", "two"),
        ("https://m.example/?%61=1&%43=2", "one", "two"),
        ("https://m.example/?a&c", "one", "two"),
        ("https://m.example/?a=&c=&b=", "one", "two"),
        ("https://m.example/?a=1&b=2&a=3&c=4&a=5", "six", "seven"),
        ("https://m.example/?b=1&a=old#a=new", "query", "and hash"),
        ("https://m.example/#a=old&c=older", "moved", "over"),
        ("https://m.example/?aa=1&ca=2&ac=3", "a", "c"),
        ("https://m.example/?a%20=1&+a=2", "a", "c"),
        // Percent signs that are none, and some that are.
        ("https://m.example/?x=50%", "50%", "100 %"),
        ("https://m.example/?x=%zz&y=%4", "%zz", "%4"),
        ("https://m.example/?x=%41%2520", "%41%2520", "%2520"),
        ("https://m.example/?x=%25%32%30", "%", "%%"),
        ("https://m.example/%?x=%%20%", "%20", "%%20"),
        ("https://m.example/?x=%E2%82", "€", "%E2%82"),
        ("https://m.example/?x=%C3%28", "%C3%28", "Ã("),
        ("https://m.example/?x=%00", "null?", "%00"),
        ("https://m.example/?x=%0D%0AX:1", "%0D%0A", "line"),
        ("https://m.example/%2e%2e%2f?x=..%2F", "../", "..%2F"),
        // Spaces and pluses.
        ("https://m.example/?x=a+b&y=a%2Bb&z=a%20b", "a+b", "a b"),
        ("https://m.example/?x=+", "+", " in the middle "),
        ("https://m.example/?+=+", "+ +", "1 + 1 = 2"),
        ("https://m.example/a+b/c%20d?x=1", "plus+", "+plus"),
        ("https://m.example/?x=a b", "two words", "a  b"),
        ("https://m.example/ä ö?x=ü ß", "ä ö", "ü ß"),
        ("https://m.example/?x=%09y", "tab", "a\u00A0b"),
        ("https://m.example/?x=\u3000", "\u3000wide\u3000", "a\u2009b"),
        ("https://m.example/?x=a%A0b", "nbsp", "a\u202Fb"),
        ("https://m.example/x?y=1 2 3#4 5", "4 5", "1 2 3"),
        // Scripts, marks and what is put together of several characters.
        ("https://m.example/?x=é", "é", "e\u0301"),
        ("https://m.example/e\u0301?x=e\u0301", "Å", "A\u030A"),
        ("https://m.example/?x=ﬁ", "ﬁ", "①"),
        ("https://m.example/?x=İıſ", "İ", "ı"),
        ("https://m.example/日本/語?x=日本", "日本語", "かな"),
        ("https://m.example/?ключ=значение", "ключ", "значение"),
        ("https://m.example/مرحبا?س=ج", "مرحبا", "س"),
        ("https://m.example/?x=שלום", "שלום", "\u05E9\u05C1"),
        ("https://m.example/?x=ไทย", "ไทย", "กำ"),
        ("https://m.example/?x=한글", "한글", "\u1112\u1161\u11AB"),
        ("https://m.example/👩‍🌾?x=👩‍🌾", "👩‍🌾", "🇮🇪"),
        ("https://m.example/?x=👍🏽", "👍🏽", "❤️"),
        ("https://m.example/?x=𝒳", "𝒳", "𠮷"),
        ("https://m.example/?x=\u2028", "a\u2028b", "ok"),
        ("https://m.example/?x=a\u200Db", "a\u200Db", "a\u00ADb"),
        // Hosts and ports.
        ("https://bücher.example/?x=1", "a", "c"),
        ("https://xn--bcher-kva.example/ü", "a", "c"),
        ("https://ΒΙΒΛΙΟ.example/", "a", "c"),
        ("https://M.EXAMPLE:443/X", "Upper", "UPPER"),
        ("http://m.example:80", "a", "c"),
        ("https://m.example:8443?x=1", "a", "c"),
        ("https://m.example./x", "dot", "at the end"),
        ("http://[::1]/x?y=1", "a", "c"),
        ("http://[2001:DB8:0:0::A]:81/?x#y", "a", "c"),
        ("http://127.0.0.1:5000/x", "a", "c"),
        // Paths that a tidy reader would spoil.
        ("https://m.example//a//b?x=1", "//", "a//b"),
        ("https://m.example/a;b=1;c/d?x", ";", "b=1"),
        ("https://m.example/@user/x:y", "@user", "x:y"),
        ("https://m.example/!$&'()*+,;=:@?x=!$'()*,:@", "!$'()*,:@", "(c)"),
        ("https://m.example/%7Ex/%41", "~x", "A"),
        ("https://m.example/~x/-._~?-._~=-._~", "-._~", "-"),
        ("https://m.example/a%3Fb%23c?x=%3F%23", "%3F", "%23"),
        ("https://m.example/a|b^c`d{e}?x=|^`{}", "|^`{}", "{e}"),
        ("https://m.example/\"q\"<r>?x=\"q\"<r>", "\"q\"", "<r>"),
        ("https://m.example/x.html?", "a", "c"),
        // Fragments.
        ("https://m.example/x#", "a", "c"),
        ("https://m.example/x?#", "a", "c"),
        ("https://m.example/x?y=1#/r?id=7&x=8", "a", "c"),
        ("https://m.example/x#/list/?page=2#top", "#", "##"),
        ("https://m.example/x#!bang", "!", "c"),
        ("https://m.example/x#:~:text=moss%20garden", "text", "c"),
        ("https://m.example/x?y#a%23b", "a", "%23"),
        ("https://m.example/x#ü é", "ü", "é"),
        ("https://m.example/x#b=1&d=2", "a", "c"),
        // Values that other formats would stumble over.
        ("https://m.example/?x='';--", "'';--", "<script>"),
        ("https://m.example/?x=%3Cscript%3E", "\"><img>", "</a>"),
        ("https://m.example/?x=\\\\", "a\\b", "c/d"),
        ("https://m.example/?x=$(id)", "$(id)", "`id`"),
        ("https://m.example/?x=@{page}", "@x", "#y"),
        ("https://m.example/?x=0123456789012345678901234567890123456789", "00012", "-0"),
    ];

    private static readonly IReadOnlyList<Tag> Looked = LinkArbitraries.Tags("", "");

    [Fact]
    public async Task Node_reads_what_we_compose_and_we_read_what_node_composes()
    {
        Assert.InRange(Cases.Length, 100, 1_000);
        Assert.Equal(Cases.Length, Cases.DistinctBy(c => c.Page).Count());
        var asked = Cases
            .Select(c =>
            {
                var destination = DestinationReader.Read(c.Page).Destination!;
                return new
                {
                    page = TagWriter.WriteBare(destination),
                    ours = TagWriter.Write(destination, LinkArbitraries.Tags(c.A, c.C), new LinkSettings()).Url,
                    a = c.A.Normalize(),
                    c = c.C.Normalize(),
                };
            })
            .ToList();
        var answers = await AskNodeAsync(asked);
        Assert.All(Cases.Zip(asked, answers), one =>
        {
            var ((page, _, _), given, node) = one;
            Assert.True(node.Faults.Length == 0, $"{page} → {given.ours}: {string.Join("; ", node.Faults)}");

            // What Node composed, read by us: the same values, and the same link when it is composed again.
            var composed = DestinationReader.Read(node.Theirs).Destination!;
            var read = LinkReader.Read(composed, Looked);
            Assert.Equal((given.a, given.c), (read.Values.GetValueOrDefault("a", ""), read.Values.GetValueOrDefault("c", "")));
            var again = LinkArbitraries.Tags(given.a, given.c);
            string once = TagWriter.Write(read.AsWritten, again, new LinkSettings()).Url;
            Assert.Equal(once, TagWriter.Write(DestinationReader.Read(once).Destination!, again, new LinkSettings()).Url);

            // And ours, read back by us.
            var own = LinkReader.Read(DestinationReader.Read(given.ours).Destination!, Looked);
            Assert.Equal((given.a, given.c), (own.Values.GetValueOrDefault("a", ""), own.Values.GetValueOrDefault("c", "")));
            Assert.Equal(given.ours, TagWriter.Write(own.AsWritten, again, new LinkSettings()).Url);
        });
    }

    private sealed record NodeAnswer(string Theirs, string[] Faults);

    private static async Task<List<NodeAnswer>> AskNodeAsync<T>(IReadOnlyList<T> cases)
    {
        const string Script = """
            const answers = JSON.parse(require('fs').readFileSync(0, 'utf8')).map(({ page, ours, a, c }) => {
              const faults = [];
              const x = new URL(page), y = new URL(ours);
              const others = (u) => JSON.stringify([...u.searchParams].filter(([k]) => !/^[ac]$/i.test(k)));
              const same = (what, want, got) => want === got || faults.push(`${what}: ${want} became ${got}`);
              for (const [key, value] of [['a', a], ['c', c]])
                same(key, JSON.stringify(value === '' ? [] : [value]), JSON.stringify(y.searchParams.getAll(key)));
              for (const part of ['protocol', 'host', 'pathname']) same(part, x[part], y[part]);
              if (!/[?&#][ac](=|&|$)/i.test(x.hash)) same('hash', x.hash, y.hash);
              same('others', others(x), others(y));
              // Node's own way of putting the two in, where keys of ours are not there in another dress.
              const theirs = new URL(page);
              for (const key of [...theirs.searchParams.keys()]) if (/^[ac]$/i.test(key)) theirs.searchParams.delete(key);
              theirs.hash = /[?&#][ac](=|&|$)/i.test(x.hash) ? '' : x.hash;
              if (a) theirs.searchParams.append('a', a);
              if (c) theirs.searchParams.append('c', c);
              return { theirs: theirs.href, faults };
            });
            process.stdout.write(JSON.stringify(answers));
            """;
        using var node = Process.Start(
            new ProcessStartInfo("node", ["-e", Script]) { RedirectStandardInput = true, RedirectStandardOutput = true }
        )!;
        using var patience = new CancellationTokenSource(Longest);
        await node.StandardInput.WriteAsync(JsonSerializer.Serialize(cases));
        node.StandardInput.Close();
        string answer = await node.StandardOutput.ReadToEndAsync(patience.Token);
        await node.WaitForExitAsync(patience.Token);
        Assert.Equal(0, node.ExitCode);
        return JsonSerializer.Deserialize<List<NodeAnswer>>(answer, JsonSerializerOptions.Web)!;
    }
}

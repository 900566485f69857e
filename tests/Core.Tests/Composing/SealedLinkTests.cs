using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Starting;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Traffic;
using static PreciseBeacon.CoreTests.Conventions.GardenConvention;

namespace PreciseBeacon.CoreTests.Composing;

/// <summary>A sealed link says everything to its workspace and nothing to others.</summary>
public sealed class SealedLinkTests
{
    private static readonly Convention Sealed = ConventionOf(1);

    private static Convention ConventionOf(byte secret) =>
        StartingConventions.Sealed.Document.ToConvention(
            1,
            new LinkSettings(SealingSecret: Convert.ToBase64String([.. Enumerable.Repeat(secret, 32)]))
        );

    private static ComposedLink Make(Convention convention, string destination, string content = "") =>
        LinkPipeline.Run(
            convention,
            new LinkRequest(destination, new Dictionary<string, string> { ["content"] = content }, Lanterns, Trellis),
            Facts
        );

    [Fact]
    public void A_sealed_link_carries_one_code_and_no_word()
    {
        var link = Make(Sealed, "https://marrowmere.example/x?list=1&utm_source=old#top");
        Assert.Matches("^https://marrowmere\\.example/x\\?list=1&k=[a-z0-9]{14}#top$", link.Tagged!.Url);
        Assert.Equal("the_trellis", link.Fields[0].Value);
        Assert.Equal(link.Tagged.Url, Make(Sealed, "https://marrowmere.example/x?list=1#top").Tagged!.Url);
        Assert.Equal(link.Tagged.Url, Make(Sealed, link.Tagged.Url).Tagged!.Url);
        Assert.NotEqual(link.Tagged.Url, Make(Sealed, "https://marrowmere.example/x?list=1#top", "other").Tagged!.Url);
        Assert.NotEqual(link.Tagged.Url, Make(ConventionOf(2), "https://marrowmere.example/x?list=1#top").Tagged!.Url);
    }

    [Fact]
    public void Its_code_is_read_back_by_whoever_knows_it()
    {
        var link = Make(Sealed, "https://marrowmere.example/x");
        string code = SealedLinks.CodeIn(link.Tagged!.Url, Sealed)!;
        var values = link.Fields.Where(f => f.Value.Length > 0).ToDictionary(f => f.Key, f => f.Value);
        var known = Facts with { Sealed = new Dictionary<string, IReadOnlyDictionary<string, string>> { [code] = values } };
        var read = LinkInspector.Inspect(Sealed, link.Tagged.Url, known);
        Assert.All(read.Notices, n => Assert.Equal("word-new", n.Rule));
        Assert.Equal(link.Tagged.Url, read.Mended!.Tagged!.Url);
        Assert.Equal(link.Fields.Select(f => f.Value), read.Mended.Fields.Select(f => f.Value));
        Assert.Contains(LinkInspector.Inspect(Sealed, link.Tagged.Url, Facts).Notices, n => n.Rule == "sealed-unknown");
    }

    [Fact]
    public void A_visit_with_a_code_counts_for_what_it_stands_for_and_an_unknown_one_is_a_stray()
    {
        var rules = new VisitRules(new HashSet<string>(), Sealed.Tags, TimeZoneInfo.Utc)
        {
            SealedKey = "k",
            Sealed = new Dictionary<string, IReadOnlyDictionary<string, string>>
            {
                ["known"] = new Dictionary<string, string> { ["utm_source"] = "the_trellis", ["utm_format"] = "square" },
            },
        };
        var known = Arrival.Read(View("https://marrowmere.example/?k=known&utm_medium=email"), rules).Tags;
        Assert.Equal("""{"utm_format":"square","utm_medium":"email","utm_source":"the_trellis"}""", known.Json);
        Assert.Contains(
            LinkKey.Of(
                new Dictionary<string, string>
                {
                    ["utm_source"] = "the_trellis",
                    ["utm_medium"] = "email",
                    ["utm_format"] = "square",
                },
                PlaceholderShapes.None
            ),
            LinkKey.Candidates(known.Read(Sealed.Tags))
        );
        var stray = Arrival.Read(View("https://marrowmere.example/?k=strange"), rules).Tags;
        Assert.Equal("""{"k":"strange"}""", stray.Json);
        Assert.True(stray.Any);

        static RawPageEvent View(string url) =>
            new()
            {
                Id = Guid.NewGuid(),
                WorkspaceId = Guid.Empty,
                SiteId = Guid.Empty,
                At = DateTimeOffset.UnixEpoch,
                Visitor = Guid.Empty,
                Url = url,
                Kind = PageEventKind.View,
            };
    }
}

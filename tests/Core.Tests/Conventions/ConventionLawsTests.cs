using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Starting;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.CoreTests.Conventions;

/// <summary>What holds for every link under every start, whatever was typed.</summary>
public sealed class ConventionLawsTests
{
    private static readonly LinkSettings Settings = new(
        Live: PlaceholderShapes.Braces,
        SealingSecret: Convert.ToBase64String(new byte[32])
    );

    private static readonly IReadOnlyList<Convention> Starts =
    [
        SampleFiles.Garden,
        .. StartingConventions.All.Select(s => s.Document.ToConvention(1, Settings)),
    ];

    public sealed record Case(Convention Convention, LinkRequest Request)
    {
        public override string ToString() =>
            $"{Request.Destination} {string.Join(", ", Request.Fields)} {Request.Placement?.Name} {Request.Campaign?.Name}";
    }

    public static Arbitrary<Case> Cases()
    {
        var text = Gen.OneOf(
            Gen.Elements(
                "Header Button",
                "größe 2",
                "{keyword}",
                "a&b=c",
                "50% off",
                "naïve",
                "",
                "x_y-z",
                "A+B",
                "#1",
                "日本",
                "e\u0301",
                "%41%2520",
                "header%20button",
                "a%2Bb c"
            ),
            ArbMap.Default.GeneratorFor<NonNull<string>>().Select(s => string.Concat(s.Get.Where(c => !char.IsSurrogate(c))))
        );
        return (
            from convention in Gen.Elements<Convention>([.. Starts])
            from page in Gen.Elements(
                "https://marrowmere.example/",
                "https://marrowmere.example/a%2Fb?list=1&list=2#top",
                "marrowmere.example/é",
                "https://marrowmere.example/x?utm_source=old&k=cccccccccccccc"
            )
            from content in text
            from term in text
            from source in Gen.Elements("", "nattervine", "Natter Vine", "new one")
            from placement in Gen.Elements<PlacementChoice?>([null, .. SampleFiles.Placements.Values])
            from campaign in Gen.Elements<CampaignChoice?>([null, .. SampleFiles.Campaigns.Values])
            let fields = new[] { ("Content", content), ("Term", term), ("Source", source) }
                .Where(f => f.Item2.Length > 0)
                .ToDictionary(f => f.Item1, f => f.Item2)
            select new Case(convention, new LinkRequest(page, fields, campaign, placement))
        ).ToArbitrary();
    }

    private static LinkFacts FactsWith(ComposedLink link, Convention convention)
    {
        string? code = SealedLinks.CodeIn(link.Tagged!.Url, convention);
        return code is null
            ? GardenConvention.Facts
            : GardenConvention.Facts with
            {
                Sealed = new Dictionary<string, IReadOnlyDictionary<string, string>> { [code] = Values(link) },
            };
    }

    private static Dictionary<string, string> Values(ComposedLink link) =>
        link.Fields.Where(f => f.Value.Length > 0).ToDictionary(f => f.Key, f => f.Value);

    [Property(Arbitrary = [typeof(ConventionLawsTests)], MaxTest = 600, QuietOnSuccess = true)]
    public Property What_was_composed_is_read_back_with_the_same_values(Case given)
    {
        var link = LinkPipeline.Run(given.Convention, given.Request, GardenConvention.Facts);
        var read = LinkInspector.Inspect(given.Convention, link.Tagged!.Url, FactsWith(link, given.Convention), decodeTwice: false);
        var before = Values(link);
        var after = Values(read.Mended!);
        // A date or a name that was missing before may be filled in when the link is written anew.
        return before.All(v => after.GetValueOrDefault(v.Key) == v.Value).Label($"{link.Tagged.Url}\n{read.Mended!.Tagged!.Url}");
    }

    [Property(Arbitrary = [typeof(ConventionLawsTests)], MaxTest = 600, QuietOnSuccess = true)]
    public Property Composing_twice_changes_nothing(Case given)
    {
        var once = LinkPipeline.Run(given.Convention, given.Request, GardenConvention.Facts);
        var twice = LinkPipeline.Run(given.Convention, given.Request with { Destination = once.Tagged!.Url }, GardenConvention.Facts);
        return (twice.Tagged!.Url == once.Tagged.Url).Label($"{once.Tagged.Url}\n{twice.Tagged.Url}");
    }

    [Property(Arbitrary = [typeof(ConventionLawsTests)], MaxTest = 600, QuietOnSuccess = true)]
    public Property The_judge_finds_no_stop_in_what_was_ready(Case given)
    {
        var link = LinkPipeline.Run(given.Convention, given.Request, GardenConvention.Facts);
        var judged = LinkPipeline.Judge(given.Convention, Values(link), given.Request.Placement?.Channel);
        return (!link.Ready || judged.Notices.All(n => n.Severity != Severity.Error)).Label(
            string.Join('\n', judged.Notices.Select(n => n.Message))
        );
    }

    [Property(Arbitrary = [typeof(ConventionLawsTests)], MaxTest = 400, QuietOnSuccess = true)]
    public Property A_repair_mends_its_notice(Case given)
    {
        var link = LinkPipeline.Run(given.Convention, given.Request, GardenConvention.Facts);
        var broken = link.Notices.Where(n => n.Repair is { Field: not null }).ToList();
        return broken
            .All(notice =>
            {
                var fields = given.Request.Fields.Where(f => given.Convention.Find(f.Key)?.Key != notice.Repair!.Field).ToDictionary();
                fields[notice.Repair!.Field!] = notice.Repair.Value;
                var mended = LinkPipeline.Run(given.Convention, given.Request with { Fields = fields }, GardenConvention.Facts);
                return mended.Notices.All(n => n.Rule != notice.Rule || n.Field != notice.Field || n.Message != notice.Message);
            })
            .Label(string.Join('\n', broken.Select(n => n.Message)));
    }

    /// <summary>A placement's fill-ins are filled and never reach a link, whatever stands around them.</summary>
    [Property(Arbitrary = [typeof(ConventionLawsTests)], MaxTest = 400, QuietOnSuccess = true)]
    public Property No_fill_in_of_a_default_value_reaches_a_link(Case given, bool known)
    {
        if (
            given.Request.Placement is not { } placement
            // A typed value may have both marks, which meet once what stands between them can't be written.
            || given.Request.Fields.Values.Any(v => v.Contains('@', StringComparison.Ordinal) && v.Contains('{', StringComparison.Ordinal))
        )
        {
            return true.ToProperty();
        }

        var defaults = new Dictionary<string, string>(placement.Defaults)
        {
            ["utm_content"] = known ? "@{page}_@{ Placement }" : "x@{no such thing}",
        };
        var fields = given.Request.Fields.Where(f => f.Key != "Content").ToDictionary();
        var link = LinkPipeline.Run(
            given.Convention,
            given.Request with
            {
                Placement = placement with { Defaults = defaults },
                Fields = fields,
            },
            GardenConvention.Facts
        );
        bool said = link.Notices.Any(n => n.Rule == NoticeRules.DefaultUnfilled.Name && n.Severity == Severity.Error);
        return (
            said != known && !link.Fields.Any(f => f.Value.Contains("@{", StringComparison.Ordinal) && !fields.ContainsValue(f.Value))
        ).Label(link.Tagged!.Url);
    }

    /// <summary>The parameters without a page are those a page's link has, where nothing depends on the page.</summary>
    [Property(Arbitrary = [typeof(ConventionLawsTests)], MaxTest = 400, QuietOnSuccess = true)]
    public Property A_snippet_says_what_a_link_would(Case given)
    {
        var request = given.Request with { Destination = "https://marrowmere.example/" };
        var link = LinkPipeline.Run(given.Convention, request, GardenConvention.Facts);
        var snippet = LinkPipeline.RunSnippet(given.Convention, request, GardenConvention.Facts);
        return (
            snippet.ParameterText == link.Tagged!.ParameterText
            && snippet.Fields.Select(f => f.Value).SequenceEqual(link.Fields.Select(f => f.Value))
            && PercentEncoding.Decode(snippet.Encoded) == snippet.ParameterText
        ).Label($"{snippet.ParameterText}\n{link.Tagged.ParameterText}");
    }
}

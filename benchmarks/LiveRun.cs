using System.Diagnostics;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Composing.Checks;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Starting;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Bench;

/// <summary>
/// What Compose works out at each keystroke: 200 placements × 5 pages under a starting convention, twins looked for, beside
/// percent-encoding the same values alone. The goal is 50 ms.
/// </summary>
public static class LiveRun
{
    private const int Placements = 200;
    private const int Pages = 5;
    private const int Pairs = 15;

    public static Report Measure()
    {
        var convention = StartingConventions.DateFirst.Document.ToConvention(
            1,
            new LinkSettings(Live: PlaceholderShapes.Braces | PlaceholderShapes.DoubleBraces)
        );
        var facts = LinkFacts.None(new DateOnly(2026, 11, 25)) with
        {
            OwnHosts = new Dictionary<string, TagStyle> { ["marrowmere.example"] = TagStyle.Query },
        };
        var campaign = new CampaignChoice(
            "Lantern Nights",
            "2026-10_lantern_nights",
            new DateOnly(2026, 10, 1),
            new DateOnly(2026, 12, 20)
        );
        var requests = (
            from page in Enumerable.Range(0, Pages)
            from place in Enumerable.Range(0, Placements)
            let defaults = new Dictionary<string, string>
            {
                [StandardKeys.Source] = $"group_{place}",
                [StandardKeys.Medium] = "community",
                [StandardKeys.Content] = "@{page}_post",
            }
            select new LinkRequest(
                $"https://marrowmere.example/page-{page}",
                new Dictionary<string, string> { [StandardKeys.Term] = "Fern & Moss" },
                campaign,
                new PlacementChoice($"Group {place}", defaults, Channel: "Communities")
            )
        ).ToList();
        var none = new Dictionary<string, string>();
        var ours = new List<double>();
        var reference = new List<double>();
        long sink = 0;
        for (int pair = -30; pair < Pairs; pair++)
        {
            long began = Stopwatch.GetTimestamp();
            var links = TwinCheck.Run([.. requests.Select(r => LinkPipeline.Run(convention, r, facts))], none);
            sink += links.Sum(l => l.Tagged!.Url.Length + l.Tagged.Strip.Count);
            double composing = Stopwatch.GetElapsedTime(began).TotalMilliseconds;

            began = Stopwatch.GetTimestamp();
            foreach (var field in links.SelectMany(l => l.Fields))
            {
                sink += PercentEncoding.EncodeValue(field.Key).Length + PercentEncoding.EncodeValue(field.Value).Length;
            }

            double encoding = Stopwatch.GetElapsedTime(began).TotalMilliseconds;
            if (pair >= 0)
            {
                ours.Add(composing);
                reference.Add(encoding);
            }
        }

        return sink == 0
            ? throw new InvalidOperationException("Nothing was composed.")
            : new Report("Live update of 200 × 5 links (50 ms)", "–", ours, reference, "ms");
    }
}

using System.Diagnostics;
using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Bench;

/// <summary>Composing 100,000 links of six fields with their notices, beside percent-encoding the same strings alone.</summary>
public static class ComposeRun
{
    private const int Links = 100_000;
    private const int Pairs = 11;

    private static readonly string[] Sources = ["the_trellis", "nattervine", "Pippinwall", "skeinly", "wendfar", "vale visitor board"];

    public static Report Measure()
    {
        var convention = new Convention(
            1,
            [.. StandardKeys.All.Select(FieldOf)],
            new LinkSettings(Live: PlaceholderShapes.Braces | PlaceholderShapes.DoubleBraces)
        )
        {
            Channels = StartingChannels.Table,
        };
        var facts = LinkFacts.None(new DateOnly(2026, 11, 25)) with
        {
            OwnHosts = new Dictionary<string, TagStyle> { ["marrowmere.example"] = TagStyle.Query },
        };
        var requests = Enumerable.Range(0, Links).Select(RequestOf).ToList();
        var ours = new List<double>();
        var reference = new List<double>();
        long sink = 0;
        for (int pair = -2; pair < Pairs; pair++)
        {
            long began = Stopwatch.GetTimestamp();
            foreach (var request in requests)
            {
                sink += LinkPipeline.Run(convention, request, facts).Tagged!.Url.Length;
            }

            double composing = Stopwatch.GetElapsedTime(began).TotalMilliseconds;
            began = Stopwatch.GetTimestamp();
            foreach (var request in requests)
            {
                foreach (var (key, value) in request.Fields)
                {
                    sink += PercentEncoding.EncodeValue(key).Length + PercentEncoding.EncodeValue(value).Length;
                }
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
            : new Report("Composing 100,000 links", "≤ 20", ours, reference, "ms");
    }

    private static Field FieldOf(string key) =>
        new()
        {
            Key = key,
            Label = key,
            Presence = key == StandardKeys.Source ? Presence.Required : Presence.Offered,
            HoldsNumbers = key == StandardKeys.Id,
            Words =
                key == StandardKeys.Source
                    ? new WordList(
                        [.. Sources.Select(s => new Word(ValueNormaliser.Normalise(s, new ValueRules()).Written))],
                        new ValueRules()
                    )
                    : null,
        };

    private static LinkRequest RequestOf(int i) =>
        new(
            $"https://marrowmere.example/page-{i % 97}?x={i}#top",
            new Dictionary<string, string>
            {
                [StandardKeys.Source] = Sources[i % Sources.Length],
                [StandardKeys.Medium] = i % 3 == 0 ? "Paid Social" : "email",
                [StandardKeys.Campaign] = $"2026-10 Lantern Nights {i % 40}",
                [StandardKeys.Content] = $"Größe {i % 12} & mehr",
                [StandardKeys.Term] = "{keyword}",
                [StandardKeys.Id] = $"{i}",
            }
        );
}

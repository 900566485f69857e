using System.Diagnostics;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Document;
using PreciseBeacon.Core.Conventions.Starting;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Bench;

/// <summary>The effect of a draft over 100,000 links, beside a bare loop that reads the same values and looks each up.</summary>
public static class EffectRun
{
    private const int Links = 100_000;
    private const int Pairs = 9;

    public static Report Measure()
    {
        var before = StartingConventions.Plain.Document.ToConvention(1, new LinkSettings());
        var after = StartingConventions.ByRegionAndChannel.Document.ToConvention(2, new LinkSettings());
        var rows = Enumerable.Range(0, Links).Select(ValuesOf).ToList();
        var known = new HashSet<string>(StartingConventions.Plain.Document.Fields.SelectMany(f => f.Words).Select(w => w.Written));
        var ours = new List<double>();
        var reference = new List<double>();
        long sink = 0;
        for (int pair = -1; pair < Pairs; pair++)
        {
            long began = Stopwatch.GetTimestamp();
            var effect = new ConventionEffect(before, after);
            foreach (var values in rows)
            {
                effect.AddLink("A link", values, "Newsletter and mail");
            }

            sink += effect.Affected;
            double judging = Stopwatch.GetElapsedTime(began).TotalMilliseconds;
            began = Stopwatch.GetTimestamp();
            foreach (var values in rows)
            {
                foreach (var (key, value) in values)
                {
                    sink += key.Length + (known.Contains(value) ? 1 : value.Length);
                }
            }

            double reading = Stopwatch.GetElapsedTime(began).TotalMilliseconds;
            if (pair >= 0)
            {
                ours.Add(judging);
                reference.Add(reading);
            }
        }

        return sink == 0
            ? throw new InvalidOperationException("Nothing was judged.")
            : new Report("Effect over 100,000 links", "under 5,000 ms", ours, reference, "ms");
    }

    private static Dictionary<string, string> ValuesOf(int i) =>
        new()
        {
            [StandardKeys.Source] = $"source_{i % 300}",
            [StandardKeys.Medium] = i % 4 == 0 ? "social" : "email",
            [StandardKeys.Campaign] = $"2026-10_lantern_nights_{i % 40}",
            [StandardKeys.Content] = $"header_{i % 12}",
            [StandardKeys.Id] = $"{i}",
        };
}

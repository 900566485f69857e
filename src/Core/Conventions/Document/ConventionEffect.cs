using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Core.Conventions.Document;

/// <summary>What a draft would do to links that exist and to arrivals of the past, counted before it is published.</summary>
public sealed class ConventionEffect(Convention before, Convention after)
{
    private const int MostSamples = 5;

    private readonly Dictionary<string, (NoticeCount Count, List<EffectSample> Samples)> _rules = new(StringComparer.Ordinal);
    private readonly Dictionary<(string From, string To), long> _moved = [];

    /// <summary>Links looked at.</summary>
    public int Links { get; private set; }

    /// <summary>Links that would have a notice of look or stop they do not have now.</summary>
    public int Affected { get; private set; }

    /// <summary>Visits that would count for another channel.</summary>
    public long VisitsMoved => _moved.Values.Sum();

    /// <summary>New notices by rule, most frequent first.</summary>
    public IReadOnlyList<EffectRule> Rules =>
        [
            .. _rules
                .Select(r => new EffectRule(r.Key, r.Value.Count.Severity, r.Value.Count.Links, r.Value.Samples))
                .OrderByDescending(r => r.Links)
                .ThenBy(r => r.Rule, StringComparer.Ordinal),
        ];

    /// <summary>Visits by the channel they leave and the one they go to, most first.</summary>
    public IReadOnlyList<EffectMove> Moves =>
        [.. _moved.Select(m => new EffectMove(m.Key.From, m.Key.To, m.Value)).OrderByDescending(m => m.Visits)];

    /// <summary>Looks at one link.</summary>
    /// <param name="title">What it is called.</param>
    /// <param name="values">Its written values by key.</param>
    /// <param name="channel">The channel of its placement, or null.</param>
    public void AddLink(string title, IReadOnlyDictionary<string, string> values, string? channel)
    {
        Links++;
        var (fields, notices) = LinkPipeline.Judge(after, values, channel);
        if (notices.All(n => n.Severity == Severity.Info))
        {
            return;
        }

        var known = LinkPipeline.Judge(before, values, channel).Notices.Select(n => (n.Rule, n.Field)).ToHashSet();
        var fresh = notices.Where(n => n.Severity != Severity.Info && !known.Contains((n.Rule, n.Field))).ToList();
        Affected += fresh.Count > 0 ? 1 : 0;
        foreach (var notice in fresh)
        {
            var (count, samples) = _rules.TryGetValue(notice.Rule, out var found)
                ? found
                : _rules[notice.Rule] = (new NoticeCount(notice.Severity), []);
            count.Links++;
            if (samples.Count < MostSamples)
            {
                string now = notice.Field is { } key ? values.GetValueOrDefault(key, "") : "";
                samples.Add(
                    new EffectSample(
                        title,
                        notice.Field,
                        now,
                        notice.Repair?.Value ?? fields.FirstOrDefault(f => f.Key == notice.Field)?.Value ?? now,
                        notice.Message
                    )
                );
            }
        }
    }

    /// <summary>Looks at one way in which visits arrived.</summary>
    public void AddArrivals(TrafficSource way, long visits)
    {
        string from = way.KeyOf(RowKind.Channel, before)!;
        string to = way.KeyOf(RowKind.Channel, after)!;
        if (from != to)
        {
            _moved[(from, to)] = _moved.GetValueOrDefault((from, to)) + visits;
        }
    }

    private sealed class NoticeCount(Severity severity)
    {
        public Severity Severity { get; } = severity;

        public int Links { get; set; }
    }
}

/// <summary>How many links would have a notice, with samples.</summary>
public sealed record EffectRule(string Rule, Severity Severity, int Links, IReadOnlyList<EffectSample> Samples);

/// <summary>One such link.</summary>
/// <param name="Title">What it is called.</param>
/// <param name="Field">The field it is about, or null.</param>
/// <param name="Before">The value it has.</param>
/// <param name="After">The value the draft would write, or its repair.</param>
/// <param name="Message">What the notice says.</param>
public sealed record EffectSample(string Title, string? Field, string Before, string After, string Message);

/// <summary>Visits that would be sorted differently.</summary>
public sealed record EffectMove(string From, string To, long Visits);

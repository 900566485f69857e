using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Core.Proofs.Strays;

/// <summary>
/// Finds strays among the ways visits arrived (reports, section 5): what neither words nor plan know, swapped pairs, misspelt keys, tags
/// after a second question mark, and known values in another case or with other separators. What is assigned already is none any more.
/// </summary>
public sealed class StrayFinder
{
    private static readonly Dictionary<string, string> Nothing = [];

    private readonly Convention _convention;
    private readonly PlanOfVisits _plan;
    private readonly HashSet<string> _readKeys;
    private readonly Field? _source;
    private readonly Field? _medium;
    private readonly Field? _campaign;
    private readonly Lazy<(NearestText Values, NearestText Names, CampaignOfVisit[] All)> _campaigns;

    private StrayFinder(Convention convention, PlanOfVisits plan)
    {
        _convention = convention;
        _plan = plan;
        _readKeys = convention
            .Fields.SelectMany(f => f.AlsoRead.Prepend(f.Key))
            .Concat(StandardKeys.All)
            .ToHashSet(StringComparer.OrdinalIgnoreCase);
        _source = FieldOf(FieldMeaning.Source);
        _medium = FieldOf(FieldMeaning.Medium);
        _campaign = FieldOf(FieldMeaning.Campaign);
        _campaigns = new(() =>
        {
            CampaignOfVisit[] all = [.. plan.Campaigns];
            return (new NearestText(all.Select(c => c.Value)), new NearestText(all.Select(c => c.Name)), all);
        });
    }

    /// <summary>The strays of some sources, grouped by what they probably mean.</summary>
    /// <param name="sources">The sources, in the order of their ids.</param>
    /// <param name="visitsOf">How many visits a source had; one that had none is passed over.</param>
    /// <param name="convention">The convention of today.</param>
    /// <param name="plan">The plan of today, with what is assigned.</param>
    /// <returns>Those of the most visits first; those that are counted right already last.</returns>
    public static IReadOnlyList<StrayGroup> Find(
        IEnumerable<TrafficSource> sources,
        Func<int, long> visitsOf,
        Convention convention,
        PlanOfVisits plan
    ) => new StrayFinder(convention, plan).Find(sources, visitsOf);

    private List<StrayGroup> Find(IEnumerable<TrafficSource> sources, Func<int, long> visitsOf)
    {
        var seen = sources
            .Where(s => s.Tags.Any && visitsOf(s.Id) > 0)
            .AsParallel()
            .AsOrdered()
            .Select(s => (Source: s, Given: ReadSource.GivenBy(s, _convention, _plan.Strays)))
            .ToList();
        var keys = new Collected<string>();
        var pairs = new Collected<(string Source, string Medium)>();
        var values = new Collected<(string Field, string Value)>();
        foreach (var (source, given) in seen)
        {
            foreach (var (key, value) in source.Tags.Values.Where(t => !_readKeys.Contains(t.Key)))
            {
                if (Swallowed(null, value) is { } tags)
                {
                    if (tags.Keys.Any(field => !given.ContainsKey(field)))
                    {
                        values.Add((key, value), source.Id);
                    }
                }
                else if (!_plan.Strays.KnowsKey(key))
                {
                    keys.Add(key, source.Id);
                }
            }

            bool swapped = IsSwapped(given);
            if (swapped)
            {
                pairs.Add((given[_source!.Key], given[_medium!.Key]), source.Id);
            }

            foreach (var (field, value) in given)
            {
                bool isDecided =
                    (swapped && (field == _source!.Key || field == _medium!.Key))
                    || (field == _campaign?.Key && _plan.LinkOf(source.LinkId)?.CampaignId is not null);
                if (!isDecided && value is not (ValueLimits.Many or PrivateAddress.Removed))
                {
                    values.Add((field, value), source.Id);
                }
            }
        }

        var found = keys
            .All.Select(k => OfKey(k.Key, k.Value))
            .Concat(pairs.All.Select(p => OfPair(p.Key, p.Value)))
            .Concat(
                values
                    .All.AsParallel()
                    .AsOrdered()
                    .Select(v => OfValue(v.Key.Field, v.Key.Value, v.Value, written => values.Has((v.Key.Field, written))))
            )
            .OfType<(StrayKind Kind, string? Field, string? Likely, bool IsSettled, Stray Stray)>();
        return
        [
            .. found
                .GroupBy(f => (f.Kind, f.Field, Means: f.Likely ?? f.Stray.Shown, f.IsSettled))
                .Select(g =>
                {
                    var strays = g.Select(f => (f.Stray, Visits: f.Stray.Sources.Sum(visitsOf))).OrderByDescending(s => s.Visits).ToList();
                    return new StrayGroup(
                        g.Key.Kind,
                        g.Key.Field,
                        g.First().Likely,
                        g.Key.IsSettled,
                        [.. strays.Select(s => s.Stray)],
                        strays.Sum(s => s.Visits)
                    );
                })
                .OrderBy(g => g.IsSettled)
                .ThenByDescending(g => g.Visits)
                .ThenBy(g => g.Field, StringComparer.Ordinal)
                .ThenBy(g => g.Strays[0].Shown, StringComparer.Ordinal),
        ];
    }

    private Field? FieldOf(FieldMeaning meaning) => _convention.IndexOf(meaning) is var at and >= 0 ? _convention.Fields[at] : null;

    /// <summary>Each is a word of the other's list, and not of its own.</summary>
    private bool IsSwapped(Dictionary<string, string> given) =>
        _source?.Words is { } sources
        && _medium?.Words is { } mediums
        && given.TryGetValue(_source.Key, out string? source)
        && given.TryGetValue(_medium.Key, out string? medium)
        && sources.Find(source) is null
        && mediums.Find(medium) is null
        && mediums.Find(source) is not null
        && sources.Find(medium) is not null;

    private (StrayKind, string?, string?, bool, Stray)? OfKey(string key, List<int> sources)
    {
        string? field = _convention.NearestTo(key)?.Key;
        return (StrayKind.MisspeltKey, field, field, false, new Stray(key, Nothing, Nothing, sources));
    }

    private (StrayKind, string?, string?, bool, Stray)? OfPair((string Source, string Medium) pair, List<int> sources)
    {
        string source = _source!.Words!.Find(pair.Medium)!.Written;
        string medium = _medium!.Words!.Find(pair.Source)!.Written;
        return (
            StrayKind.Swapped,
            null,
            $"{source} / {medium}",
            false,
            new Stray(
                null,
                new Dictionary<string, string> { [_source.Key] = pair.Source, [_medium.Key] = pair.Medium },
                new Dictionary<string, string> { [_source.Key] = source, [_medium.Key] = medium },
                sources
            )
        );
    }

    private (StrayKind, string?, string?, bool, Stray)? OfValue(string key, string value, List<int> sources, Func<string, bool> occurs)
    {
        var field = _convention.Find(key);
        if (Swallowed(field, value) is { } apart)
        {
            return Of(StrayKind.SecondQuestionMark, string.Join(" / ", apart.Values), apart, false);
        }

        if (field is null)
        {
            return null;
        }

        if (key == _campaign?.Key)
        {
            if (_plan.KnowsCampaign(value))
            {
                return null;
            }

            if (field.Words?.Find(value) is not { } listed || !_plan.KnowsCampaign(listed.Written))
            {
                string? near = NearestCampaign(value);
                return Of(StrayKind.UnknownValue, near, Means(near), false);
            }

            return null;
        }

        if (field.Words is not { } words)
        {
            // Free text is only a stray where the same value is also written as the convention writes it, so that one became two rows.
            string written = ValueNormaliser.Normalise(value, field.Rules).Written;
            return written != value && written.Length > 0 && occurs(written)
                ? Of(StrayKind.WrittenOtherwise, written, Means(written), false)
                : null;
        }

        if (words.Find(value) is { } word)
        {
            bool isKnown = words.Knows(value) || word.Aliases.Contains(value, StringComparer.Ordinal);
            return isKnown ? null : Of(StrayKind.WrittenOtherwise, word.Written, Means(word.Written), true);
        }

        string? likely = words.Match(value).Word?.Written;
        return Of(StrayKind.UnknownValue, likely, Means(likely), false);

        Dictionary<string, string> Means(string? text) => text is null ? Nothing : new Dictionary<string, string> { [key] = text };

        (StrayKind, string?, string?, bool, Stray)? Of(StrayKind kind, string? means, Dictionary<string, string> then, bool isSettled) =>
            (kind, key, means, isSettled, new Stray(null, new Dictionary<string, string> { [key] = value }, then, sources));
    }

    /// <summary>The campaign whose written value is nearest, else the only one whose name is.</summary>
    private string? NearestCampaign(string value)
    {
        var (values, names, campaigns) = _campaigns.Value;
        if (values.PlaceOf(value) is var at and >= 0)
        {
            return campaigns[at].Value;
        }

        return
            names.PlaceOf(value) is var named and >= 0
            && campaigns.Count(c => c.Name.Equals(campaigns[named].Name, StringComparison.OrdinalIgnoreCase)) == 1
            ? campaigns[named].Value
            : null;
    }

    /// <summary>What a value and the tags it swallowed after a second question mark say; null where it swallowed none.</summary>
    /// <param name="field">Its field; null for a parameter nobody reads.</param>
    /// <param name="value">The value.</param>
    private Dictionary<string, string>? Swallowed(Field? field, string value)
    {
        int at = value.IndexOf('?', StringComparison.Ordinal);
        if (at < (field is null ? 0 : 1))
        {
            return null;
        }

        var apart = new Dictionary<string, string>(StringComparer.Ordinal);
        if (field is not null)
        {
            apart[field.Key] = WrittenAs(field, value[..at]);
        }

        foreach (var pair in RawPair.Split(value[(at + 1)..].Replace('?', '&')))
        {
            if (pair.Value.Length == 0 || _convention.KeyMeant(pair.Key) is not { } meant)
            {
                return null;
            }

            apart.TryAdd(meant.Key, WrittenAs(meant, pair.Value));
        }

        return apart;
    }

    private static string WrittenAs(Field field, string value) => field.Words?.Find(value)?.Written ?? value;

    /// <summary>Sources by what they say.</summary>
    private sealed class Collected<T>
        where T : notnull
    {
        private readonly Dictionary<T, List<int>> _all = [];

        public IReadOnlyCollection<KeyValuePair<T, List<int>>> All => _all;

        public bool Has(T what) => _all.ContainsKey(what);

        public void Add(T what, int source)
        {
            if (!_all.TryGetValue(what, out var sources))
            {
                _all[what] = sources = [];
            }

            if (sources.Count == 0 || sources[^1] != source)
            {
                sources.Add(source);
            }
        }
    }
}

using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Core.Proofs.Strays;

/// <summary>What strays would belong to, were they assigned to what they probably mean.</summary>
public static class StrayMeaning
{
    /// <summary>Visits by strays that would then say all of some values.</summary>
    /// <param name="groups">The strays; those that are counted right already say nothing.</param>
    /// <param name="values">The values, by field key; none mean nothing.</param>
    /// <param name="sourceOf">The traffic source of an id.</param>
    /// <param name="visitsOf">How many visits a source had.</param>
    /// <param name="convention">The convention of today.</param>
    /// <param name="plan">The plan of today, with what is assigned.</param>
    public static long VisitsOf(
        IEnumerable<StrayGroup> groups,
        IReadOnlyDictionary<string, string> values,
        Func<int, TrafficSource> sourceOf,
        Func<int, long> visitsOf,
        Convention convention,
        PlanOfVisits plan
    ) =>
        values.Count == 0
            ? 0
            : groups
                .Where(g => !g.IsSettled)
                .SelectMany(g => g.Strays)
                .Where(s => s.Then.Any(t => values.TryGetValue(t.Key, out string? value) && value == t.Value))
                .SelectMany(s => s.Sources.Select(id => (Stray: s, Id: id)))
                .Where(s =>
                {
                    var given = ReadSource.GivenBy(sourceOf(s.Id), convention, plan.Strays);
                    return values.All(v => (s.Stray.Then.GetValueOrDefault(v.Key) ?? given.GetValueOrDefault(v.Key)) == v.Value);
                })
                .Select(s => s.Id)
                .Distinct()
                .Sum(visitsOf);
}

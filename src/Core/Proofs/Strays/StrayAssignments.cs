using System.IO.Hashing;
using System.Runtime.InteropServices;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Core.Proofs.Strays;

/// <summary>The assignments of a workspace, applied to what traffic sources say before words and aliases are looked up.</summary>
public sealed class StrayAssignments
{
    /// <summary>Nothing is assigned.</summary>
    public static readonly StrayAssignments None = new([]);

    private readonly Dictionary<(string Field, string Value), List<StrayAssignment>> _byValue = [];
    private readonly List<StrayAssignment> _keys;

    /// <param name="all">Every assignment; of those of the same stray the last one holds.</param>
    public StrayAssignments(IEnumerable<StrayAssignment> all)
    {
        All = [.. all.GroupBy(a => a.Stray, StringComparer.Ordinal).Select(g => g.Last()).OrderBy(a => a.Stray, StringComparer.Ordinal)];
        _keys = [.. All.Where(a => a.Key is not null)];
        foreach (var assignment in All.Where(a => a.When.Count > 0))
        {
            var (field, value) = assignment.When.MinBy(w => w.Key, StringComparer.Ordinal);
            (CollectionsMarshal.GetValueRefOrAddDefault(_byValue, (field, value), out _) ??= []).Add(assignment);
        }

        var hash = new XxHash3();
        foreach (var assignment in All)
        {
            hash.Append(MemoryMarshal.AsBytes($"{assignment.Stray}\0{assignment.Field}\0".AsSpan()));
            foreach (var (field, value) in assignment.Then.OrderBy(t => t.Key, StringComparer.Ordinal))
            {
                hash.Append(MemoryMarshal.AsBytes($"{field}\0{value}\0".AsSpan()));
            }
        }

        Stamp = All.Count == 0 ? 0 : hash.GetCurrentHashAsUInt64();
    }

    /// <summary>Every assignment that holds.</summary>
    public IReadOnlyList<StrayAssignment> All { get; }

    /// <summary>A number for what they say; 0 for none. Others have another one, but for a chance of one in 2⁶⁴ (XXH3).</summary>
    public ulong Stamp { get; }

    /// <summary>True where a misspelt key is assigned to a field.</summary>
    public bool KnowsKey(string key) => _keys.Exists(k => k.Key!.Equals(key, StringComparison.OrdinalIgnoreCase));

    /// <summary>
    /// Puts what is assigned in the place of what arrived: keys first, unless the field was said under its own key, then values. Where
    /// several fit, the one that asks for the most values comes first, and no field is assigned twice.
    /// </summary>
    /// <param name="values">What a source says by field key; changed in place.</param>
    /// <param name="tags">Its raw tags.</param>
    /// <param name="convention">The convention of today. An assignment for a field it no longer has does nothing.</param>
    public void ApplyTo(Dictionary<string, string> values, RawTags tags, Convention convention)
    {
        if (All.Count == 0)
        {
            return;
        }

        foreach (var assignment in _keys)
        {
            if (
                convention.Find(assignment.Field!)?.Key is { } field
                && !values.ContainsKey(field)
                && tags.Values.TryGetValue(assignment.Key!, out string? value)
            )
            {
                values[field] = value;
            }
        }

        List<StrayAssignment>? fitting = null;
        foreach (var (key, value) in values.Concat(tags.Values.Where(t => !values.ContainsKey(t.Key))))
        {
            if (_byValue.TryGetValue((key, value), out var candidates))
            {
                foreach (var candidate in candidates)
                {
                    if (candidate.When.All(w => (values.GetValueOrDefault(w.Key) ?? tags.Values.GetValueOrDefault(w.Key)) == w.Value))
                    {
                        (fitting ??= []).Add(candidate);
                    }
                }
            }
        }

        if (fitting is null)
        {
            return;
        }

        var assigned = new HashSet<string>(StringComparer.Ordinal);
        foreach (var assignment in fitting.OrderByDescending(f => f.When.Count).ThenBy(f => f.Stray, StringComparer.Ordinal).ToList())
        {
            if (!assignment.When.Keys.Any(assigned.Contains))
            {
                foreach (var (field, value) in assignment.Then)
                {
                    if (convention.Find(field) is not null && assigned.Add(field))
                    {
                        values[field] = value;
                    }
                }

                assigned.UnionWith(assignment.When.Keys);
            }
        }
    }
}

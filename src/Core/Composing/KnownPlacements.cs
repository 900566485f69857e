using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Plan;

namespace PreciseBeacon.Core.Composing;

/// <summary>
/// The workspace's placements by the values they give: a link that says exactly what a placement would say belongs to it (ours).
/// Only placements that give source and medium are told by their values, and the one that gives most wins.
/// </summary>
public sealed class KnownPlacements
{
    private readonly List<(PlacementChoice Placement, IReadOnlyList<(string Key, string Value)> Values)> _known;

    private KnownPlacements(List<(PlacementChoice Placement, IReadOnlyList<(string Key, string Value)> Values)> known) => _known = known;

    /// <summary>Placements of a convention; those whose default values are known only with the link are left out.</summary>
    public static KnownPlacements Of(Convention convention, IEnumerable<PlacementChoice> placements)
    {
        string?[] due = [convention.KeyOf(FieldMeaning.Source), convention.KeyOf(FieldMeaning.Medium)];
        var known = new List<(PlacementChoice Placement, IReadOnlyList<(string Key, string Value)> Values)>();
        foreach (var placement in placements.Where(p => !p.Defaults.Values.Any(Plan.FillIns.In)))
        {
            var fields = LinkPipeline
                .RunSnippet(convention, new LinkRequest("", new Dictionary<string, string>(), null, placement), LinkFacts.None(default))
                .Fields;
            var values = fields.Where(f => f is { From: ValueOrigin.Placement, Value.Length: > 0 }).Select(f => (f.Key, f.Value)).ToList();
            if (due.All(key => values.Any(v => v.Key == key)))
            {
                known.Add((placement, values));
            }
        }

        return new KnownPlacements(known);
    }

    /// <summary>The placement a link's values are those of; null where none or more than one would say the same.</summary>
    public PlacementChoice? PlacementOf(IReadOnlyList<ComposedField> fields)
    {
        var values = fields.ToDictionary(f => f.Key, f => f.Value);
        var fitting = _known.Where(k => k.Values.All(v => values.GetValueOrDefault(v.Key) == v.Value)).ToList();
        int most = fitting.Count == 0 ? 0 : fitting.Max(k => k.Values.Count);
        return fitting.Where(k => k.Values.Count == most).ToList() is [var only] ? only.Placement : null;
    }
}

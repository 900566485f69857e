using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Core.Reports;

/// <summary>Which towns the rows of a report are about, so that a map can show them: known where each row says its country, region and town.</summary>
public static class TownRows
{
    /// <summary>The towns of rows.</summary>
    /// <param name="fields">What rows are made by.</param>
    /// <param name="where">The conditions: what all rows have in common need not be one of the fields.</param>
    /// <param name="rows">The keys of the rows.</param>
    /// <returns>The rows with a town, all in one country; empty where rows are of several countries, or do not say enough.</returns>
    public static IReadOnlyList<(IReadOnlyList<string?> Keys, Whereabouts Town)> Of(
        IReadOnlyList<RowField> fields,
        IReadOnlyList<RowCondition> where,
        IEnumerable<IReadOnlyList<string?>> rows
    )
    {
        if (
            !fields.Any(f => f.Kind == RowKind.Town)
            || KeyOf(RowKind.Country) is not { } country
            || KeyOf(RowKind.Region) is not { } region
            || KeyOf(RowKind.Town) is not { } town
        )
        {
            return [];
        }

        var found = rows.Select(keys => (keys, Town: new Whereabouts(country(keys) ?? "", region(keys) ?? "", town(keys) ?? "")))
            .Where(r => r.Town.City.Length > 0)
            .ToList();
        return found.Select(r => r.Town.Country).Distinct().Count() == 1 ? found : [];

        Func<IReadOnlyList<string?>, string?>? KeyOf(RowKind kind)
        {
            for (int i = 0; i < fields.Count; i++)
            {
                if (fields[i].Kind == kind)
                {
                    int place = i;
                    return keys => keys[place];
                }
            }

            return where.FirstOrDefault(w => w.Field.Kind == kind && w.Test == RowTest.Is) is { } one ? _ => one.Values[0] : null;
        }
    }
}

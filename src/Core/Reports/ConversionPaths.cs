using PreciseBeacon.Core.Credit;

namespace PreciseBeacon.Core.Reports;

/// <summary>A way people took to a conversion.</summary>
/// <param name="Steps">What each visit is called, the earliest first and the converting one last; at most <see cref="ConversionPaths.MostSteps"/>. Null for visits without such a value.</param>
/// <param name="IsCut">There were visits before the first step.</param>
/// <param name="Conversions">How many came this way.</param>
/// <param name="Revenue">Their value, in the workspace's currency.</param>
public sealed record ConversionPath(IReadOnlyList<string?> Steps, bool IsCut, long Conversions, decimal Revenue);

/// <summary>Counts the ways people took to their conversions.</summary>
public static class ConversionPaths
{
    /// <summary>The latest visits of a way that are told apart.</summary>
    public const int MostSteps = 5;

    /// <summary>The ways, the commonest first, then by what they are called.</summary>
    /// <param name="points">The conversions.</param>
    /// <param name="history">Their visitors' visits.</param>
    /// <param name="choice">How far back a visit may lie; the models are not looked at.</param>
    /// <param name="maps">What the converting visit's source fulfils, and what sources are called: one field.</param>
    /// <param name="currency">The workspace's.</param>
    public static IReadOnlyList<ConversionPath> Of(
        ConversionPoints points,
        TouchHistory history,
        CreditChoice choice,
        (RowMap Fulfilled, RowMap Called) maps,
        string currency
    )
    {
        var touches = new Touch[CreditChoice.MostTouches];
        var found = new Dictionary<RowKey, (bool IsCut, long Conversions, decimal Revenue)>();
        foreach (var point in points.All)
        {
            if (maps.Fulfilled.GroupOf(point.Visit.SourceId) == RowMap.None)
            {
                continue;
            }

            int count = history.Before(point.Visitor, point.Visit, choice.Seconds, touches);
            int steps = Math.Min(count, MostSteps);
            bool isCut = count > steps;
            string?[] key = new string?[steps + 1];
            key[0] = isCut ? "…" : "";
            for (int i = 0; i < steps; i++)
            {
                int group = maps.Called.GroupOf(touches[count - steps + i].SourceId);
                key[i + 1] = group == RowMap.None ? null : maps.Called.Names[group][0];
            }

            var its = new RowKey(key);
            var known = found.GetValueOrDefault(its);
            bool isOwn = point.Currency.Length == 0 || point.Currency == currency;
            found[its] = (isCut, known.Conversions + 1, known.Revenue + (isOwn ? point.Value : 0));
        }

        return
        [
            .. found
                .Select(f => new ConversionPath([.. f.Key.Keys.Skip(1)], f.Value.IsCut, f.Value.Conversions, f.Value.Revenue))
                .OrderByDescending(p => p.Conversions)
                .ThenByDescending(p => p.Revenue)
                .ThenBy(p => string.Join('\n', p.Steps), StringComparer.Ordinal),
        ];
    }
}

using PreciseBeacon.Core.Credit;

namespace PreciseBeacon.Core.Reports;

/// <summary>A conversion that waits for its credit.</summary>
/// <param name="Visitor">Whose it is.</param>
/// <param name="Visit">The converting visit.</param>
/// <param name="Groups">Of each map of the report the visit's group; that of its source is told by each touch.</param>
/// <param name="Measure">Which of the named measures it is counted in; negative for none.</param>
/// <param name="Currency">ISO 4217; empty where none was said.</param>
/// <param name="Value">Its value in that currency.</param>
/// <param name="Verified">A server confirmed it.</param>
public readonly record struct ConversionPoint(
    ulong Visitor,
    Touch Visit,
    int[] Groups,
    int Measure,
    string Currency,
    decimal Value,
    bool Verified
);

/// <summary>The conversions of a report that fulfil its conditions, but for those about the source: these are about the touches.</summary>
public sealed class ConversionPoints(IReadOnlyList<RowMap> maps, IReadOnlyList<NamedMeasure> named)
{
    private readonly List<ConversionPoint> _points = [];

    /// <summary>In no order.</summary>
    public IReadOnlyList<ConversionPoint> All => _points;

    /// <summary>Adds the conversions of one day's visits.</summary>
    public void Add(VisitColumns visits, DateOnly day)
    {
        var conversions = visits.Conversions;
        if (conversions.Count == 0)
        {
            return;
        }

        int[] measures =
        [
            .. conversions.Kinds.Select(kind =>
                Enumerable.Range(0, named.Count).FirstOrDefault(m => named[m] is { Of: NamedThing.Conversions } its && its.Name == kind, -1)
            ),
        ];
        var columns = maps.Select(m => m.Table is RowTable.Day or RowTable.Source ? null : visits.IdsOf(m.Table)).ToList();
        var sources = visits.IdsOf(RowTable.Source);
        for (int i = 0; i < conversions.Count; i++)
        {
            int visit = conversions.VisitOf(i);
            int[] groups = new int[maps.Count];
            bool holds = true;
            for (int m = 0; m < groups.Length && holds; m++)
            {
                groups[m] =
                    maps[m].Table == RowTable.Source ? 0
                    : columns[m] is { } column ? maps[m].GroupOf(column[visit])
                    : maps[m].GroupOf(day.DayNumber);
                holds = groups[m] != RowMap.None;
            }

            if (holds)
            {
                _points.Add(
                    new ConversionPoint(
                        visits.Visitors[visit],
                        new Touch(visits.AtOf(visit, day), sources[visit]),
                        groups,
                        measures[conversions.KindPlaceOf(i)],
                        conversions.CurrencyOf(i),
                        conversions.ValueOf(i),
                        conversions.IsVerified(i)
                    )
                );
            }
        }
    }

    /// <summary>Takes those of another scan by the same maps.</summary>
    public void Take(ConversionPoints other) => _points.AddRange(other._points);
}

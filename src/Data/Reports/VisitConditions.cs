using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>The conditions of a report as SQL over single visits, <c>visit v</c>.</summary>
internal static class VisitConditions
{
    /// <summary>Conditions of the maps, each beginning with <c>and</c>.</summary>
    /// <param name="maps">What visits are narrowed by.</param>
    /// <param name="first">The number of the first parameter; each map's is an array of its ids, see <see cref="ValuesOf"/>.</param>
    public static string SqlOf(IReadOnlyList<RowMap> maps, int first) =>
        string.Concat(maps.Select((m, i) => $" and {ColumnOf(m.Table)} = any(${first + i})"));

    /// <summary>The parameters of <see cref="SqlOf"/>.</summary>
    public static IEnumerable<object> ValuesOf(IReadOnlyList<RowMap> maps) => maps.Select(m => m.Ids.ToArray());

    /// <summary>What a visit has of a table, as a whole number.</summary>
    private static string ColumnOf(RowTable table) =>
        table switch
        {
            RowTable.Source => "v.source_id",
            RowTable.LandingPage => "v.landing_page_id",
            RowTable.LastPage => "v.last_page_id",
            RowTable.Place => "v.place_id",
            RowTable.Device => "v.device_id",
            RowTable.Visitor =>
                $"case when not v.has_id then {VisitorKinds.Unknown} when v.is_new then {VisitorKinds.New} else {VisitorKinds.Returning} end",
            RowTable.Hour => "v.hour",
            RowTable.FirstSource => "coalesce(v.first_source_id, 0)",
            _ => "(v.day - date '0001-01-01')", // as DateOnly.DayNumber counts
        };
}

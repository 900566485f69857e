using PreciseBeacon.Core.Outcomes;

namespace PreciseBeacon.Data.Batches;

/// <summary>A row of a sheet with what a count or a run made of it.</summary>
/// <param name="Number">Its place among the sheet's rows, from 1; headings are not counted.</param>
/// <param name="Cells">Its cells exactly as they were uploaded.</param>
/// <param name="Overrides">Values typed for this row alone, or null.</param>
/// <param name="Outcome">What came of it; see <c>RowOutcome</c>; empty before it was counted.</param>
/// <param name="Url">The URL of its link, from the last run that made one; null for none.</param>
/// <param name="LinkId">That link.</param>
public sealed record BatchRow(
    int Number,
    string[] Cells,
    Dictionary<string, string>? Overrides,
    string Outcome,
    string? Says,
    string? Url,
    Guid? LinkId
);

using PreciseBeacon.Core.Outcomes;

namespace PreciseBeacon.Data.Batches;

/// <summary>An order rows are looked at in; the sheet's own order is not touched by it.</summary>
/// <param name="Column">Position of the column, from 0; null for the order of the sheet, -1 for the outcome.</param>
/// <param name="Descending">True for the other way round.</param>
public readonly record struct RowOrder(int? Column = null, bool Descending = false)
{
    public const int Outcome = -1;
}

using PreciseBeacon.Core.Outcomes;

namespace PreciseBeacon.Data.Batches;

/// <summary>What was worked out for a row. Url, link and run stay as they were where they are null.</summary>
public sealed record RowResult(
    int Number,
    string Outcome,
    string? Says,
    IReadOnlyList<string> Rules,
    string? Url = null,
    Guid? LinkId = null,
    int? Run = null
);

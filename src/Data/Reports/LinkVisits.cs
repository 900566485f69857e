namespace PreciseBeacon.Data.Reports;

/// <summary>A link, and how many visits came by it.</summary>
public sealed record LinkVisits(Guid LinkId, long Visits);

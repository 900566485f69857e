namespace PreciseBeacon.Data.Traffic;

/// <summary>One visitor's one day, the unit in which visits are worked out.</summary>
internal readonly record struct VisitorDay(Guid WorkspaceId, Guid Visitor, DateOnly Day);

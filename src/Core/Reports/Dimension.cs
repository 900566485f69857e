namespace PreciseBeacon.Core.Reports;

/// <summary>What rows of Arrivals can be made by.</summary>
public enum Dimension
{
    Channel,
    Campaign,
    Source,
    Medium,
    Content,
    Term,
    Id,
    Referrer,
    Page,
    Device,
}

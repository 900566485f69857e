using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Core.Reports;

/// <summary>What rows of Arrivals can be made by.</summary>
public enum Dimension
{
    Channel,

    /// <summary>The group its channel is gathered in.</summary>
    Group,

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

namespace PreciseBeacon.Data.Entities;

public enum ShortLinkState
{
    /// <summary>Redirects.</summary>
    Live,

    /// <summary>Leads to a host that no owner has approved yet; answers 404.</summary>
    Waiting,
}

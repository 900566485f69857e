namespace PreciseBeacon.Web.Hosting;

/// <summary>Whether this copy runs the demo; settled once at start from what the database holds.</summary>
public sealed class RunMode
{
    public bool IsDemo { get; set; }
}

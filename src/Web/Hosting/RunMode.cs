using PreciseBeacon.Data.Start;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Whether this copy runs the demo; settled once at start from what the database holds.</summary>
public sealed class RunMode(IServiceProvider services)
{
    public bool IsDemo { get; set; }

    /// <summary>What the demo brings with it; null where this copy doesn't run it.</summary>
    public IStartData? StartData => IsDemo ? services.GetService<IStartData>() : null;
}

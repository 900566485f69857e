namespace PreciseBeacon.Demo;

/// <summary>Settings of the demo, in the section of the application's own.</summary>
public sealed class DemoOptions
{
    public const string Section = "Beacon";

    /// <summary>Visits the demo's generator makes.</summary>
    public int DemoVisits { get; set; } = 120_000;

    /// <summary>The demo's short domain, with its port.</summary>
    public string DemoShortHost { get; set; } = "mmr.localhost:5080";

    /// <summary>The demo's website, with its port.</summary>
    public string DemoSiteHost { get; set; } = "garden.localhost:5081";

    /// <summary>Host of the orchard's website, which the same stand-in answers for.</summary>
    public string DemoOrchardHost => "orchard.localhost" + Port;

    /// <summary>The inbox that ships with the stand-ins.</summary>
    public string InboxUrl => $"http://inbox.{DemoSiteHost[(DemoSiteHost.IndexOf('.', StringComparison.Ordinal) + 1)..]}";

    /// <summary>Hosts on this machine, with ports, that the demo may fetch pages from beside its own website.</summary>
    public string[] StandInHosts { get; set; } = [];

    private string Port => DemoSiteHost.LastIndexOf(':') is var colon and >= 0 ? DemoSiteHost[colon..] : "";
}
